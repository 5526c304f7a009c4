import type { ArrangeContext } from '../context';
import { differing } from '../differing';
import type { ArrangementResult } from '../result';
import { evaluatePegs } from './evaluate';
import type { Pegs } from './schema';

/** More changed pegs than one in so many are worked out with all the others. */
const FEW = 4;

/** Whether what becomes of one peg is its own matter: no ground to lie on each other, no gaps that count others. */
const apart = ({ ground, gaps }: Pegs): boolean =>
  ground.mode === 'none' &&
  gaps.taken.share === 0 &&
  gaps.collide === 'ignore' &&
  (gaps.chance === 0 || gaps.longest === null);

/**
 * Pegs of which a few are others than before: those are worked out, and the rest is what it was.
 * @param before the pegs as they were, and what they came to, on the same surfaces and with the same props
 * @returns null where more may have changed than the rows of the changed pegs
 */
export function changedPegs(
  pegs: Pegs,
  context: ArrangeContext,
  before: { node: Pegs; result: ArrangementResult },
): ArrangementResult | null {
  const { node, result } = before;
  const old = result.placements;
  // What was said may no longer hold.
  if (!apart(pegs) || result.findings.length > 0) return null;
  const { pegs: list, seed, ground, gaps, variation } = pegs;
  if (seed !== node.seed || ground !== node.ground || gaps !== node.gaps || variation !== node.variation)
    return null;
  if (list.length !== node.pegs.length) return null;
  const rows = differing(list, node.pegs);
  if (rows.length * FEW > list.length) return null;
  // Props are counted in the order of their first use, so that another prop may change the numbers of all.
  if (rows.some((i) => list[i].id !== node.pegs[i].id || list[i].prop !== node.pegs[i].prop)) return null;
  if (rows.length === 0) return { ...result, rows: new Int32Array(0) };
  const few = evaluatePegs({ ...pegs, pegs: rows.map((i) => list[i]) }, context);
  const { placements: now } = few;
  if (few.findings.length > 0 || (now.tint && !old.tint)) return null;
  // One that became a gap, or none, is drawn among others.
  if (rows.some((i, k) => now.state[k] !== old.state[i])) return null;
  const out = {
    ...old,
    position: old.position.slice(),
    rotation: old.rotation.slice(),
    scale: old.scale.slice(),
    ...(old.tint && { tint: old.tint.slice() }),
  };
  rows.forEach((i, k) => {
    out.position.set(now.position.subarray(k * 3, k * 3 + 3), i * 3);
    out.rotation.set(now.rotation.subarray(k * 4, k * 4 + 4), i * 4);
    out.scale.set(now.scale.subarray(k * 3, k * 3 + 3), i * 3);
    out.tint?.set(now.tint?.subarray(k * 3, k * 3 + 3) ?? [1, 1, 1], i * 3);
  });
  return { ...result, placements: out, rows: Int32Array.from(rows) };
}
