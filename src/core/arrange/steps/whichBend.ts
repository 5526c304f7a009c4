import { parseSlotName } from '../slotId';
import type { Facing, Hand } from './schema';

/** Whether the item of a slot is bent. @param prop its number among the placements' props; negative for none */
export type Bends = (slot: number, prop: number) => boolean;

/**
 * Which items are bent: as the recipe says, but for props that keep their shape, and slots that a hand decided.
 * @param ids of the props that the placements count @returns null where none ever is
 */
export function whichBend(
  { bend, rigid }: Pick<Facing, 'bend' | 'rigid'>,
  hand: Hand,
  ids: readonly string[],
): Bends | null {
  const decided = new Map(
    Object.entries(hand).flatMap(([name, h]) =>
      h.bend === undefined ? [] : [[parseSlotName(name), h.bend] as const],
    ),
  );
  if (!bend && ![...decided.values()].some((b) => b)) return null;
  const kept = new Set(rigid);
  const byProp = ids.map((id) => bend && !kept.has(id));
  return (slot, prop) => decided.get(slot) ?? byProp[prop] ?? false;
}
