import { STATE } from '../result';
import type { Facing } from './lay';
import type { Rows } from './facing';
import type { Stock } from './schema';
import { stackEnd } from './sold';

/**
 * Lets what stood on something that is gone come down, and pulls what is left to the front where that is asked for.
 * @param state one a row, from `STATE` @returns whether anything has moved
 */
export function settleDown(
  { sold, filling }: Pick<Stock, 'sold' | 'filling'>,
  boards: readonly { facings: readonly Facing[] }[],
  rows: Rows,
  state: Uint8Array,
): boolean {
  if (state.every((s) => s === STATE.placed)) return false;
  for (const { facings } of boards)
    for (const { start, end } of facings) {
      let front = 0;
      for (let from = start; from < end;) {
        const to = stackEnd(rows, from, end);
        let top = 0;
        let [z0, z1] = [Infinity, -Infinity];
        for (let i = from; i < to; i++) {
          if (state[i] !== STATE.placed) continue;
          const b = i * 6;
          rows.y[i] = top - rows.box[b + 2];
          top += rows.box[b + 3] - rows.box[b + 2];
          z0 = Math.min(z0, rows.box[b + 4]);
          z1 = Math.max(z1, rows.box[b + 5]);
        }
        if (sold.forward && z1 >= z0) {
          for (let i = from; i < to; i++) rows.z[i] = front - z1;
          front -= z1 - z0 + filling.airBehind;
        }
        from = to;
      }
    }
  return true;
}
