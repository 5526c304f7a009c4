import { defineKind } from '../kind';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { allEntries } from '../steps/schema';
import { handWithout, orderWithout } from '../steps/withoutProp';
import { evaluateStock } from './evaluate';
import { propsOf, stockSchema, type Shelf, type Stock } from './schema';

const asksForBoard = (s: Shelf): boolean =>
  s.from === 'path' && (s.depth === null || s.levels.length === 0 || s.levels.some((l) => l.height === null));

/** The kind "stock" as the registry lists it. */
export const stockKind = defineKind({
  schema: stockSchema,
  noun: 'unit',
  places: ['shelves', 'byFacing'],
  needs({ shelves, gaps, ...stock }) {
    const kept = neededBy(gaps.keepOuts);
    const own = shelves.flatMap((s) => (s.from === 'surface' ? [s.surface] : []));
    return {
      paths: [...new Set([...shelves.flatMap((s) => (s.from === 'path' ? [s.path] : [])), ...kept.paths])],
      props: propsOf(stock as Stock),
      arrangements: [
        ...new Set([
          ...shelves.flatMap((s) => (s.from === 'prop' ? [s.arrangement] : [])),
          ...kept.arrangements,
        ]),
      ],
      // All that are shown, where boards are looked for, and its own among them, shown or not.
      ...(shelves.some(asksForBoard)
        ? { surfaces: 'all' as const, locks: own }
        : { surfaces: [...new Set(own)] }),
    };
  },
  touches: ({ shelves }) => ({
    on: shelves.flatMap((s) => (s.from === 'prop' ? [s.arrangement] : [])),
    may: () => true,
    neighbours: false,
  }),
  moves: () => false,
  evaluate: evaluateStock,
  withoutProp: ({ order, hand, byFacing, onShelf }, prop) => ({
    order: orderWithout(order, prop),
    hand: handWithout(hand, prop),
    byFacing: facingsWithout(byFacing, prop),
    onShelf:
      prop in onShelf ? Object.fromEntries(Object.entries(onShelf).filter(([id]) => id !== prop)) : onShelf,
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  ontoPlaced({ shelves }, surface, placed) {
    if (!shelves.some((s) => s.from === 'surface' && s.surface === surface)) return null;
    return {
      shelves: shelves.map((s): Shelf => {
        if (s.from !== 'surface' || s.surface !== surface) return s;
        const { part, depth, levels, front } = s;
        return { from: 'prop', ...placed, part, depth, levels, front };
      }),
    };
  },
  renew(copy, take) {
    const now = new Map<string, string>();
    for (const e of allEntries(copy.order.entries)) {
      const id = take('entry');
      now.set(e.id, id);
      e.id = id;
    }
    for (const s of copy.shelves) for (const l of s.levels) l.goods = l.goods.map((id) => now.get(id) ?? id);
    for (const k of copy.gaps.keepOuts) k.id = take('keep');
  },
  moveToPath(copy, path) {
    const [was] = copy.shelves;
    copy.shelves = [{ behind: 'left', depth: null, levels: was?.levels ?? [], part: 0, from: 'path', path }];
    leavePlaces(copy);
  },
  moveToSurface(copy, surface) {
    const [was] = copy.shelves;
    copy.shelves = [
      { front: '+z', depth: null, levels: was?.levels ?? [], part: 0, from: 'surface', surface },
    ];
    leavePlaces(copy);
  },
});

/** What a hand says of facings without a prop; the same object where none names it. */
function facingsWithout(byFacing: Stock['byFacing'], prop: string): Stock['byFacing'] {
  if (Object.values(byFacing).every((f) => f.prop !== prop)) return byFacing;
  return Object.fromEntries(
    Object.entries(byFacing).flatMap(([name, f]) => {
      if (f.prop !== prop) return [[name, f]];
      const { prop: _, ...left } = f;
      return Object.keys(left).length > 0 ? [[name, left]] : [];
    }),
  );
}

/** What belongs to places of the old shelves stays there. */
function leavePlaces(copy: Stock): void {
  copy.hand = {};
  copy.byFacing = {};
}
