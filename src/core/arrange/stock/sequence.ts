import { orderSlots } from '../steps/order';
import type { Order } from '../steps/schema';
import { blockId, MOST_IN_BLOCK } from '../slotId';

/** What comes next along an edge: in each zone a sequence of its own, as far as it is asked for. */
export interface Sequence {
  /** The next prop of a zone; -1 a pause, null where the order gives nothing there. */
  next(zone: number): number | null;
}

/** @param goods ids of the entries that count; none: all @param expected about how many are asked for */
export function sequence(
  order: Order,
  goods: readonly string[],
  props: readonly string[],
  seed: number,
  part: number,
  board: number,
  expected: number,
): Sequence {
  // What is not in the order any more holds for no board.
  const some = goods.filter((id) => order.entries.some((e) => e.id === id));
  // Each board draws for itself.
  const own = (seed + Math.imul(part * 256 + board, 0x9e3779b1)) | 0;
  const zones = new Map<number, { prop: Int32Array; at: number; empty: boolean }>();
  const drawn = (zone: number, count: number) => {
    const ids = new Float64Array(count);
    for (let i = 0; i < count; i++) ids[i] = blockId(i + 1, 1, 1, part, board);
    const entries = order.entries
      .filter((e) => some.length === 0 || some.includes(e.id))
      .filter((e) => e.zones.length === 0 || e.zones.includes(zone))
      .map((e) => ({ ...e, zones: [] }));
    const bare: Order = { ...order, entries, first: null, last: null, corner: null, every: null };
    return orderSlots(bare, { ids }, own, props);
  };
  return {
    next(zone) {
      let known = zones.get(zone);
      if (!known) zones.set(zone, (known = { ...drawn(zone, Math.min(8192, expected + 8)), at: 0 }));
      if (known.empty) return null;
      if (known.at >= known.prop.length) {
        if (known.at >= MOST_IN_BLOCK.across * 2) return null;
        // The same from the beginning, and more.
        known.prop = drawn(zone, known.prop.length * 2).prop;
      }
      return known.prop[known.at++];
    },
  };
}
