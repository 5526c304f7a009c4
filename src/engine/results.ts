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
  ms: 0,
};

/** The results so far with what is new. */
export function taken(old: EngineResult, served: Served): EngineResult {
  const surfaces = new Map(old.surfaces);
  // Surfaces that only moved keep the faces that came before.
  for (const s of served.surfaces)
    surfaces.set(s.id, s.plain || s.rest ? s : { ...s, rest: old.surfaces.get(s.id)?.rest });
  const paths = new Map(old.paths);
  for (const p of served.paths) paths.set(p.id, p);
  const arrangements = new Map(old.arrangements);
  for (const a of served.arrangements) arrangements.set(a.id, a);
  for (const r of served.rows) arrangements.set(r.id, withRows(arrangements.get(r.id)!, r));
  // Mostly there are few, and seldom others.
  const masks = served.masks.length + served.gone.length > 0 ? new Map(old.masks) : old.masks;
  for (const m of served.masks) masks.set(m.id, m);
  for (const id of served.gone) for (const nodes of [surfaces, paths, arrangements, masks]) nodes.delete(id);
  const { propBounds = old.propBounds, links = old.links, ms } = served;
  return { surfaces, paths, arrangements, masks, propBounds, links, ms };
}
