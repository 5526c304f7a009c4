import type { Order, OrderEntry } from './orderSchema';
import type { Hand } from './schema';
import type { Weighted } from './weighted';

/** Settings without a prop that has left the scene. Where they do not name it they stay the same objects. */

export const weightedWithout = (list: Weighted, prop: string): Weighted =>
  list.some((p) => p.prop === prop) ? list.filter((p) => p.prop !== prop) : list;

/** An order without a prop: its entries, in groups too, its special places and its every n-th. */
export function orderWithout(order: Order, prop: string): Order {
  const names = (item: { kind: string; prop?: string } | null) => item?.kind === 'prop' && item.prop === prop;
  const entries = entriesWithout(order.entries, prop);
  const special = (['first', 'last', 'corner'] as const).filter((place) => names(order[place]));
  const every = names(order.every?.item ?? null);
  if (entries === order.entries && special.length === 0 && !every) return order;
  return {
    ...order,
    entries,
    ...Object.fromEntries(special.map((place) => [place, null])),
    ...(every && { every: null }),
  };
}

function entriesWithout(entries: OrderEntry[], prop: string): OrderEntry[] {
  let changed = false;
  const kept = entries.flatMap((e) => {
    if (e.item.kind === 'prop' && e.item.prop === prop) {
      changed = true;
      return [];
    }
    if (e.item.kind !== 'group') return [e];
    const inside = entriesWithout(e.item.entries, prop);
    if (inside === e.item.entries) return [e];
    changed = true;
    return [{ ...e, item: { ...e.item, entries: inside } }];
  });
  return changed ? kept : entries;
}

/** Corrections without a prop: swaps to it and locks of it go; what else was corrected stays. */
export function handWithout(hand: Hand, prop: string): Hand {
  const named = Object.entries(hand).filter(([, h]) => h.prop === prop || h.lock?.prop === prop);
  if (named.length === 0) return hand;
  const next = { ...hand };
  for (const [name, h] of named) {
    const { prop: swapped, lock, ...rest } = h;
    const left = {
      ...rest,
      ...(swapped !== undefined && swapped !== prop && { prop: swapped }),
      ...(lock && lock.prop !== prop && { lock }),
    };
    if (Object.keys(left).length > 0) next[name] = left;
    else delete next[name];
  }
  return next;
}
