import { channel, random01 } from '../../math/random';
import { slotId } from '../slotId';
import type { Order } from './schema';

const TIMES = channel('order.times');
const MIX = channel('order.mix');

export interface Ordered {
  /** Index into the order's entries for each slot. */
  entry: Int32Array;
  /** True where the entries can never give anything (no entries, all weights or times 0). */
  empty: boolean;
}

/**
 * Which entry goes in which slot. Pattern: the entries in turn, each as often as its `times` says, drawn anew
 * for every round; slot n has the same entry however many slots follow. Mix: each slot draws by weight.
 * @param ids slot ids of one path in order
 */
export function orderSlots(order: Order, ids: Float64Array, seed: number): Ordered {
  const entry = new Int32Array(ids.length).fill(-1);
  const { entries } = order;
  if (order.mode === 'mix') {
    const sums: number[] = [];
    let total = 0;
    for (const e of entries) sums.push((total += Math.max(0, e.weight)));
    if (!(total > 0)) return { entry, empty: true };
    for (let i = 0; i < ids.length; i++) {
      const u = random01(seed, ids[i], MIX) * total;
      entry[i] = sums.findIndex((sum) => u < sum);
    }
    return { entry, empty: false };
  }
  if (!entries.some((e) => Math.max(...e.times) > 0)) return { entry, empty: true };
  let at = 0;
  for (let round = 0; at < ids.length; round++) {
    for (let e = 0; e < entries.length && at < ids.length; e++) {
      const low = Math.min(...entries[e].times);
      const high = Math.max(...entries[e].times);
      const u = low === high ? 0 : random01(seed, slotId(round + 1, 0, 0) * 512 + e, TIMES);
      const times = low + Math.floor(u * (high - low + 1));
      for (let k = 0; k < times && at < ids.length; k++) entry[at++] = e;
    }
  }
  return { entry, empty: false };
}
