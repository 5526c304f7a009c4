import { parseSlotName } from '../slotId';
import type { Hand } from './schema';

/** What a hand puts in the place of what the order says. */

/** Ids of the props that corrections swap in or lock, each once. */
export const propsByHand = (hand: Hand): string[] => [
  ...new Set(Object.values(hand).flatMap((h) => [h.prop, h.lock?.prop].filter((p) => p !== undefined))),
];

/** Puts the props that were swapped or locked by hand into their slots. @param ids that `prop` counts */
export function swapByHand(
  hand: Hand,
  slot: ArrayLike<number>,
  prop: Int32Array,
  ids: readonly string[],
): void {
  const swaps = new Map<number, number>();
  for (const [name, h] of Object.entries(hand)) {
    const to = h.lock?.prop ?? h.prop;
    if (to !== undefined) swaps.set(parseSlotName(name), ids.indexOf(to));
  }
  if (swaps.size) for (let i = 0; i < slot.length; i++) prop[i] = swaps.get(slot[i]) ?? prop[i];
}
