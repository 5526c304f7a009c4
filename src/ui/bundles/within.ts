import type { Inside } from '@/core/arrange/inside';
import { wayWithin } from '@/core/arrange/inside';
import type { WayStep } from '@/core/arrange/steps/withinSchema';
import { slotName } from '@/core/arrange/slotId';
import { engine } from '@/store/engine';
import { selectWithin, type SelectedSlots } from '@/store/selection';

/** What is within the copies of bundles: gone into, out of, and through from one to the next. */

/** The way to what is selected, its arrangement and the slot of the copy first. */
export const wholeWay = ({ arrangement, ids, within = [] }: SelectedSlots): WayStep[] => [
  { arrangement, slot: slotName(ids[0]) },
  ...within,
];

/** The rows that lie beside one: of the same copy, or nested copy. */
function rowsBeside(inside: Inside, copy: number, parent: number): number[] {
  const rows: number[] = [];
  for (let i = 0; i < inside.count; i++)
    if (inside.copy[i] === copy && inside.parent[i] === parent) rows.push(i);
  return rows;
}

/** Selects the first thing that a copy holds. @param parent the row of a nested copy; -1: of the copy itself */
export function goInto({ arrangement, ids }: SelectedSlots, parent = -1): void {
  const { inside, placements } = engine().state.result.arrangements.get(arrangement) ?? {};
  if (!inside || !placements) return;
  const [first] = rowsBeside(inside, placements.slot.indexOf(ids[0]), parent);
  if (first !== undefined) selectWithin(arrangement, ids[0], wayWithin(inside, first));
}

/** Selects what comes before or after a row in its copy, round at the ends. */
export function goOn({ arrangement, ids }: SelectedSlots, row: number, by: 1 | -1): void {
  const { inside } = engine().state.result.arrangements.get(arrangement) ?? {};
  if (!inside) return;
  const rows = rowsBeside(inside, inside.copy[row], inside.parent[row]);
  const next = rows[(rows.indexOf(row) + by + rows.length) % rows.length];
  selectWithin(arrangement, ids[0], wayWithin(inside, next));
}
