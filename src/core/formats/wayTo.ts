import type { Inside } from '../arrange/inside';
import type { Placements } from '../arrange/result';
import { slotName } from '../arrange/slotId';

/** The way to what a copy of a bundle holds: "12/r2.3", the slot of the copy and the slot in it; as deep as it is nested. */
export function wayTo({ slot }: Placements, inside: Inside, row: number): string {
  const names: string[] = [];
  for (let i = row; i >= 0; i = inside.parent[i]) names.unshift(slotName(inside.slot[i]));
  return [slotName(slot[inside.copy[row]]), ...names].join('/');
}
