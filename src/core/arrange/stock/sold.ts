import { channel, random01, randomBase, randomOf } from '../../math/random';
import { STATE } from '../result';
import { blockId } from '../slotId';
import type { Facing } from './lay';
import type { Rows } from './facing';
import type { Stock } from './schema';

const FRONT = channel('stock.sold.front');
const TOP = channel('stock.sold.top');
const OUT = channel('stock.sold.out');

const drawn = ([a, b]: readonly [number, number], share: number): number =>
  Math.min(a, b) + Math.abs(b - a) * share;

/**
 * Marks what is taken away: whole facings that are sold out, rows from the front of each, the tops of its stacks. Every
 * facing and every stack draws by itself; a greater share takes the same ones and more.
 * @param taken one a row, from `STATE`
 */
export function takeAway(
  { sold, seed, byFacing }: Pick<Stock, 'sold' | 'seed' | 'byFacing'>,
  facing: Facing,
  part: number,
  board: number,
  rows: Rows,
  taken: Uint8Array,
): void {
  const { start, end, across, deep } = facing;
  if (facing.prop < 0) return;
  const id = blockId(across, 0, 0, part, board);
  const by = byFacing[facing.name]?.sold;
  if (by ?? (sold.out > 0 && random01(seed, id, OUT) < sold.out)) {
    taken.fill(STATE.taken, start, end);
    return;
  }
  if (by === false) return;
  const front =
    sold.front[0] + sold.front[1] > 0 ? Math.round(deep * drawn(sold.front, random01(seed, id, FRONT))) : 0;
  const tops = sold.top[0] + sold.top[1] > 0;
  const base = randomBase(seed, TOP);
  let row = 0;
  for (let from = start; from < end;) {
    const to = stackEnd(rows, from, end);
    if (row++ < front) taken.fill(STATE.taken, from, to);
    else if (tops) {
      const away = Math.round((to - from) * drawn(sold.top, randomOf(base, rows.slot[from])));
      taken.fill(STATE.taken, to - away, to);
    }
    from = to;
  }
}

/** The row after a stack: ids of one go down by one from prop to prop. */
export function stackEnd({ slot }: Pick<Rows, 'slot'>, from: number, end: number): number {
  let to = from + 1;
  while (to < end && slot[to] === slot[to - 1] - 1) to++;
  return to;
}
