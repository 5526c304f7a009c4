import { useMemo } from 'react';
import { wantedSo } from '@/core/arrange/asWanted';
import type { Arrangement } from '@/core/arrange/registry';
import type { Finding } from '@/core/arrange/result';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import type { EngineResult } from '@/engine/results';
import type { NodeRef } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';

/** What checks have found in the whole scene, and what of it is as it is wanted. */

/** A finding of a node of the scene. */
export interface Told {
  node: NodeRef;
  name: string;
  color: string;
  finding: Finding;
  /** The arrangement that it is of, if it is of one. */
  a?: Arrangement;
}

/** How bad a sort of finding is: the first is the worst. What is not among them comes after those. */
const WORST = ['doubled', 'overlap', 'through', 'too-tight', 'buried', 'floating', 'ground-missed'];
const rank = ({ kind, severity }: Finding): number => {
  const at = WORST.indexOf(kind);
  return severity === 'error' ? -1 : at < 0 ? WORST.length : at;
};
const howMany = (f: Finding): number => f.slots?.length ?? Number(f.detail.count ?? 1);

/** How deep the deepest is in something, metres. */
const howDeep = ({ detail }: Finding): number => Number(detail.depth ?? detail.by ?? 0);

/** The worst first: what is broken, then by sort, then by how deep, then by how many it is about. */
const worstFirst = (list: readonly Told[]): Told[] =>
  [...list].sort(
    ({ finding: x }, { finding: y }) =>
      rank(x) - rank(y) || howDeep(y) - howDeep(x) || howMany(y) - howMany(x),
  );

/** The findings of nodes that are no arrangements, shown or not: others may stand on what is hidden. */
function* ofNodes(
  kind: 'path' | 'surface' | 'mask',
  nodes: readonly { id: string; name: string }[],
  { found, ...result }: EngineResult,
): Generator<Told> {
  const results = result[`${kind}s`];
  for (const { id, name } of nodes)
    if (found.has(id))
      for (const finding of results.get(id)?.findings ?? [])
        yield { node: { kind, id }, name, color: 'var(--color-linen-400)', finding };
}

/** The findings of arrangements that are shown. */
function* ofArrangements(
  arrangements: readonly Arrangement[],
  { found, arrangements: results }: EngineResult,
  checks: ReadonlyMap<string, readonly Finding[]>,
): Generator<Told> {
  for (const a of arrangements) {
    if (!a.visible || !(found.has(a.id) || checks.has(a.id))) continue;
    for (const findings of [results.get(a.id)?.findings, checks.get(a.id)])
      for (const finding of findings ?? [])
        yield {
          node: { kind: 'arrangement', id: a.id },
          name: a.name,
          color: THREAD_COLORS[a.thread],
          finding,
          a,
        };
  }
}

const NONE: { told: Told[]; aside: (Told & { why: string })[] } = { told: [], aside: [] };

/** What is told of the whole scene, the worst first; `aside` is what is as it is wanted. */
export function useFindings(): { told: Told[]; aside: (Told & { why: string })[]; looking: boolean } {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const paths = useDocument((s) => s.scene.paths);
  const surfaces = useDocument((s) => s.scene.surfaces);
  const masks = useDocument((s) => s.scene.masks);
  const result = useEngine((s) => s.result);
  const checks = useEngine((s) => s.checks);
  const looking = useEngine((s) => s.looking);
  const found = useMemo(() => {
    // Of many nodes mostly none has any, and this is asked while things are dragged.
    if (result.found.size === 0 && checks.size === 0) return NONE;
    const told: Told[] = [];
    const aside: (Told & { why: string })[] = [];
    for (const one of [
      ...ofArrangements(arrangements, result, checks),
      ...ofNodes('path', paths, result),
      ...ofNodes('surface', surfaces, result),
      ...ofNodes('mask', masks, result),
    ]) {
      const why = one.a && wantedSo(one.a, one.finding);
      if (why === undefined) told.push(one);
      else aside.push({ ...one, why });
    }
    return { told: worstFirst(told), aside };
  }, [arrangements, paths, surfaces, masks, result, checks]);
  return { ...found, looking };
}
