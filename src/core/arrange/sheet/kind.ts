import { defineKind } from '../kind';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { allEntries } from '../steps/schema';
import { handWithout, orderWithout } from '../steps/withoutProp';
import { evaluateSheet } from './evaluate';
import { sheetLines } from './laidLines';
import { itemSlot, propsOf, sheetSchema } from './schema';

/** The kind "sheet" as the registry lists it. */
export const sheetKind = defineKind({
  schema: sheetSchema,
  noun: 'slot',
  places: ['surface', 'over', 'match', 'items', 'curves'],
  needs: (sheet) => ({
    ...neededBy(sheet.gaps.keepOuts),
    props: propsOf(sheet),
    surfaces: [sheet.surface],
  }),
  moves: () => false,
  evaluate: evaluateSheet,
  lines: sheetLines,
  withoutProp: ({ order, hand, items }, prop) => ({
    order: orderWithout(order, prop),
    hand: handWithout(hand, prop),
    items: items.some((i) => i.prop === prop) ? items.filter((i) => i.prop !== prop) : items,
  }),
  // Free items are gone; places of the grid stay, as gaps.
  removeSlots({ items, hand }, slots, removed) {
    const free = new Map(items.map((i) => [itemSlot(i.id), i]));
    const gone = removed ? new Set(slots.map((s) => free.get(s))) : new Set();
    return {
      items: items.some((i) => gone.has(i)) ? items.filter((i) => !gone.has(i)) : items,
      hand: handRemoved(
        hand,
        slots.filter((s) => !free.has(s)),
        removed,
      ),
    };
  },
  renew({ order, items, curves, gaps }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
    for (const e of allEntries(order.entries)) e.id = take('entry');
    for (const item of items) item.id = take('item');
    for (const curve of curves) curve.id = take('curve');
  },
  // A frame stood before the old one, and corners meet otherwise on another.
  moveToSurface(copy, surface) {
    copy.surface = surface;
    if (copy.over.kind === 'frame') copy.over = { kind: 'uv', u: [0, 1], v: [0, 1] };
    copy.match.guess = true;
    copy.hand = {};
  },
});
