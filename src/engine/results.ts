import type { MaskResult, PathResult } from '@/core/evaluate/scene';
import type { LinkResult } from '@/core/evaluate/links/linked';
import type { Bounds } from '@/core/mesh/mesh';
import { withRows, type Served, type ServedArrangement, type ServedSurface } from './served';

/** The latest results, whole. */
export interface EngineResult {
  paths: Map<string, PathResult>;
  arrangements: Map<string, ServedArrangement>;
  propBounds: Record<string, Bounds>;
  /** What became of the scene's links. */
  links: readonly LinkResult[];
  surfaces: Map<string, ServedSurface>;
  masks: Map<string, MaskResult>;
  /** The nodes of any kind that have findings: mostly few, of nodes that may be many. */
  found: ReadonlySet<string>;
  /** Milliseconds that the last evaluation took in the worker. */
  ms: number;
}

export const NOTHING: EngineResult = {
  paths: new Map(),
  arrangements: new Map(),
  propBounds: {},
  links: [],
  surfaces: new Map(),
  masks: new Map(),
  found: new Set(),
  ms: 0,
};

/** The results so far with what is new; what nothing has changed of stays what it was. */
export function taken(old: EngineResult, served: Served): EngineResult {
  const { gone } = served;
  const next = <T>(nodes: Map<string, T>, ...news: readonly unknown[][]) =>
    news.some((list) => list.length > 0) || gone.some((id) => nodes.has(id)) ? new Map(nodes) : nodes;
  const surfaces = next(old.surfaces, served.surfaces);
  const paths = next(old.paths, served.paths);
  const arrangements = next(old.arrangements, served.arrangements, served.rows);
  const masks = next(old.masks, served.masks);
  // Surfaces that only moved keep the faces that came before.
  for (const s of served.surfaces)
    surfaces.set(s.id, s.plain || s.rest ? s : { ...s, rest: old.surfaces.get(s.id)?.rest });
  for (const p of served.paths) paths.set(p.id, p);
  for (const a of served.arrangements) arrangements.set(a.id, a);
  for (const r of served.rows) arrangements.set(r.id, withRows(arrangements.get(r.id)!, r));
  for (const m of served.masks) masks.set(m.id, m);
  for (const id of gone)
    for (const nodes of [surfaces, paths, arrangements, masks]) if (nodes.has(id)) nodes.delete(id);
  const { propBounds = old.propBounds, links = old.links, ms } = served;
  const found = foundIn(old.found, served);
  return { surfaces, paths, arrangements, masks, found, propBounds, links, ms };
}

function foundIn(old: ReadonlySet<string>, served: Served): ReadonlySet<string> {
  const found = new Set(old);
  for (const nodes of [served.surfaces, served.paths, served.arrangements, served.masks])
    for (const { id, findings } of nodes)
      if (findings.length > 0) found.add(id);
      else found.delete(id);
  for (const id of served.gone) found.delete(id);
  return found;
}
