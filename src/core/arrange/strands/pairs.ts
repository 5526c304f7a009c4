import { channel, random01 } from '../../math/random';
import type { ArrangeContext } from '../context';
import { STATE, type Placements } from '../result';
import { slotId, slotParts } from '../slotId';
import { rowFinder } from '../rowFinder';
import { nearNeighbours, neighbours } from '../steps/neighbours';
import { MOST_LINES, type Strands } from './schema';

/** Which slots lines are hung between. */

const PICK = channel('strands.to');

/** Rows that a line leaves and meets, of the two arrangements. */
export type Pair = [from: number, to: number];

/**
 * The pairs of a recipe, in the order of where they leave.
 * @param to the same object as `from` where it is one @returns null where they are known to be more than {@link MOST_LINES}
 */
export function pairsOf(
  strands: Strands,
  from: Placements,
  to: Placements,
  context: ArrangeContext,
): Pair[] | null {
  const { pairs, every, reach } = strands;
  const { on } = strands.from;
  if (pairs === 'next')
    return context.unordered?.(on)
      ? nearNeighbours(from, { reach, every }, MOST_LINES)
      : neighbours(from, context.parts?.(on) ?? [], { reach, every });
  const stands = (p: Placements, row: number) => row >= 0 && p.state[row] === STATE.placed;
  const rows = [...from.slot.keys()].filter((i) => i % every === 0 && stands(from, i));
  if (pairs === 'rows') {
    const rowOf = rowFinder(from);
    return rows.flatMap((i): Pair[] => {
      const { part, stroke, row, index } = slotParts(from.slot[i]);
      const next = rowOf(slotId(index, row + 1, part, stroke));
      return stands(from, next) ? [[i, next]] : [];
    });
  }
  if (pairs === 'same' || pairs === 'cross')
    return rows.flatMap((i): Pair[] => {
      const j = pairs === 'same' ? i : to.count - 1 - i;
      return j < to.count && stands(to, j) && !(to === from && i === j) ? [[i, j]] : [];
    });
  const there = [...to.slot.keys()].filter((j) => stands(to, j));
  if (pairs === 'nearest') {
    const near = nearestOf(to, there);
    return rows.flatMap((i): Pair[] => {
      const j = near(from.position.subarray(i * 3, i * 3 + 3), to === from ? i : -1);
      return j < 0 ? [] : [[i, j]];
    });
  }
  return rows.flatMap((i): Pair[] => {
    const others = to === from ? there.length - 1 : there.length;
    if (others < 1) return [];
    const k = Math.floor(random01(strands.seed, from.slot[i], PICK) * others);
    // Of the same arrangement any but itself.
    const j = to === from && there[k] >= i ? there[k + 1] : there[k];
    return [[i, j]];
  });
}

/**
 * The nearest of some rows to a place, but not one of them; −1 where there is none. They are in order along the axis
 * that they are widest along, and looked through from the place on to both sides.
 */
function nearestOf(
  { position }: Placements,
  rows: readonly number[],
): (at: ArrayLike<number>, not: number) => number {
  const wide = [0, 1, 2].map((a) => {
    let [low, high] = [Infinity, -Infinity];
    for (const row of rows) {
      low = Math.min(low, position[row * 3 + a]);
      high = Math.max(high, position[row * 3 + a]);
    }
    return high - low;
  });
  const axis = wide.indexOf(Math.max(...wide));
  const along = (row: number) => position[row * 3 + axis];
  // Of two that are as far on the first, whichever way they are gone through.
  const order = [...rows].sort((i, j) => along(i) - along(j) || i - j);
  return (at, not) => {
    let best = { row: -1, d: Infinity };
    const look = (row: number): boolean => {
      const past = along(row) - at[axis];
      if (past * past > best.d) return false;
      if (row === not) return true;
      const [dx, dy, dz] = [0, 1, 2].map((k) => position[row * 3 + k] - at[k]);
      const d = dx * dx + dy * dy + dz * dz;
      if (d < best.d || (d === best.d && row < best.row)) best = { row, d };
      return true;
    };
    let [low, high] = [0, order.length];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (along(order[mid]) < at[axis]) low = mid + 1;
      else high = mid;
    }
    for (let k = low; k < order.length && look(order[k]); k++);
    for (let k = low - 1; k >= 0 && look(order[k]); k--);
    return best.row;
  };
}
