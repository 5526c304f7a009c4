import type { Placements } from './result';

/** So many are looked for one by one before all are put into an index. */
const FEW = 8;

/**
 * Tells the rows of slots, -1 for one that is not there. A few are looked for; from then on there is an index, so that
 * the cost goes by the slots that are asked for and not by those times all.
 *
 * @example
 * const row = rowFinder(placements);
 * slots.map(row);
 */
export function rowFinder({ slot }: Pick<Placements, 'slot'>): (id: number) => number {
  let asked = 0;
  let index: Map<number, number> | null = null;
  return (id) => {
    if (!index && asked++ < FEW) return slot.indexOf(id);
    if (!index) {
      index = new Map();
      // From the end on, so that the first of two that are alike is told, as when it is looked for.
      for (let i = slot.length - 1; i >= 0; i--) index.set(slot[i], i);
    }
    return index.get(id) ?? -1;
  };
}
