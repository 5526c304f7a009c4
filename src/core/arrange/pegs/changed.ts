import type { ArrangeContext } from '../context';
import { changedIn, pegCount } from './blocks';
import type { ArrangementResult, Placements } from '../result';
import { evaluatePegs } from './evaluate';
import type { Pegs } from './schema';
import { sitsAmong } from './sits';

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
  if (!apart(pegs) || sitsAmong(pegs) || sitsAmong(node) || result.findings.length > 0) return null;
  // Those that stop or turn back do so for the first of them.
  if (pegs.travel?.on || node.travel?.on) return null;
  const { pegs: blocks, seed, ground, gaps, variation } = pegs;
  if (seed !== node.seed || ground !== node.ground || gaps !== node.gaps || variation !== node.variation)
    return null;
  const changed = changedIn(blocks, node.pegs);
  if (!changed || changed.length * FEW > pegCount(blocks)) return null;
  // Props are counted in the order of their first use, so that another prop may change the numbers of all.
  if (changed.some(({ now, was }) => now.id !== was.id || now.prop !== was.prop)) return null;
  if (changed.length === 0) return { ...result, rows: new Int32Array(0) };
  const few = evaluatePegs(
    pegs,
    context,
    changed.map((c) => c.now),
  );
  const { placements: now } = few;
  if (few.findings.length > 0 || (now.tint && !old.tint)) return null;
  // One that became a gap, or none, or is mirrored, is drawn among others.
  const mirrored = (p: Placements, i: number) => p.scale[i * 3] < 0;
  if (
    changed.some(({ row }, k) => now.state[k] !== old.state[row] || mirrored(now, k) !== mirrored(old, row))
  )
    return null;
  // The arrays are taken over and written into: a copy of all would cost more than everything else.
  const out = { ...old };
  changed.forEach(({ row }, k) => {
    out.position.set(now.position.subarray(k * 3, k * 3 + 3), row * 3);
    out.rotation.set(now.rotation.subarray(k * 4, k * 4 + 4), row * 4);
    out.scale.set(now.scale.subarray(k * 3, k * 3 + 3), row * 3);
    out.tint?.set(now.tint?.subarray(k * 3, k * 3 + 3) ?? [1, 1, 1], row * 3);
  });
  return { ...result, placements: out, rows: Int32Array.from(changed, (c) => c.row) };
}
