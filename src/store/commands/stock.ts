import type { FacingByHand, Shelf, ShelfLevel, Stock } from '@/core/arrange/stock/schema';
import type { Scene } from '@/core/scene/schema';
import { newEntry, takeId } from '@/core/scene/defaults';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement, findPath, findProp, findSurface } from './find';
import { describeChange } from './naming';

/** Commands of stock: its shelves, what a hand says of facings. Its blocks of settings have those of all arrangements. */

/** A shelf as it is given: the rest is at its defaults. */
export type GivenShelf =
  | { from: 'path'; path: string; behind?: 'left' | 'right' }
  | { from: 'surface'; surface: string }
  | { from: 'prop'; arrangement: string; slot: string };

const nameOf = (scene: Scene, shelf: GivenShelf | Shelf): string =>
  shelf.from === 'path'
    ? findPath(scene, shelf.path).name
    : shelf.from === 'surface'
      ? findSurface(scene, shelf.surface).name
      : findArrangement(scene, shelf.arrangement).name;

/** An arrangement that is stock. */
function findStock(scene: Scene, id: string): Stock {
  const found = findArrangement(scene, id);
  if (!('shelves' in found)) throw new Error(`"${id}" fills no shelves.`);
  return found;
}

/** Fills a shelf with goods, one after the other along it. @returns its id */
export const addStock = command<{ shelf: GivenShelf; props?: string[]; values?: object }>({
  apply: (scene, { shelf, props = [], values = {} }) =>
    addArrangement(scene, 'stock', `Stock of ${nameOf(scene, shelf)}`, () => ({
      shelves: [{ ...shelf, part: 0 }],
      order: { entries: props.map((prop) => newEntry(takeId(scene, 'entry'), { kind: 'prop', prop })) },
      ...values,
    })),
  name: (before, _, { shelf }) => `stock “${nameOf(before, shelf)}”`,
});

/** Puts more goods into the order of stock. */
export const addGoods = command<{ id: string; props: string[] }>({
  apply(scene, { id, props }) {
    const { entries } = findStock(scene, id).order;
    for (const prop of props) entries.push(newEntry(takeId(scene, 'entry'), { kind: 'prop', prop }));
  },
  name: (before, _, { id, props }) =>
    `${props.map((p) => findProp(before, p).name).join(', ')} into “${findStock(before, id).name}”`,
});

/** One shelf more, filled by the same recipe. */
export const addShelf = command<{ id: string; shelf: GivenShelf }>({
  apply(scene, { id, shelf }) {
    const { shelves } = findStock(scene, id);
    const taken = new Set(shelves.map((s) => s.part));
    let part = 0;
    while (taken.has(part)) part++;
    const base = { part, depth: null, levels: [] };
    shelves.push(
      shelf.from === 'path' ? { behind: 'left', ...shelf, ...base } : { front: '+z', ...shelf, ...base },
    );
  },
  name: (before, _, { shelf }) => `add shelf “${nameOf(before, shelf)}”`,
});

/** Takes a shelf out, with what a hand said of its facings and units. */
export const removeShelf = command<{ id: string; part: number }>({
  apply(scene, { id, part }) {
    const stock = findStock(scene, id);
    stock.shelves = stock.shelves.filter((s) => s.part !== part);
    const elsewhere = (name: string) => Number(/^p(\d+)\./.exec(name)?.[1] ?? 0) !== part;
    const left = <T>(of: Record<string, T>) =>
      Object.fromEntries(Object.entries(of).filter(([n]) => elsewhere(n)));
    stock.byFacing = left(stock.byFacing);
    stock.hand = left(stock.hand);
  },
  name: () => 'remove a shelf',
});

const shelfOf = (scene: Scene, id: string, part: number): Shelf => {
  const found = findStock(scene, id).shelves.find((s) => s.part === part);
  if (!found) throw new Error(`"${id}" has no shelf ${part}.`);
  return found;
};

/** Sets fields of a shelf, each by its name. */
export const setShelf = command<{
  id: string;
  part: number;
  values: { depth?: number | null; behind?: 'left' | 'right'; front?: '+x' | '-x' | '+z' | '-z' };
}>({
  apply: (scene, { id, part, values }) => void Object.assign(shelfOf(scene, id, part), values),
  name: (before, _, { id, part, values }) => describeChange(shelfOf(before, id, part), values, before.units),
});

const LEVEL: ShelfLevel = { height: null, board: 0.03, goods: [], empty: false };

/** Says something of one board of a shelf, counted from 0. */
export const setLevel = command<{ id: string; part: number; board: number; values: Partial<ShelfLevel> }>({
  apply(scene, { id, part, board, values }) {
    const { levels } = shelfOf(scene, id, part);
    while (levels.length <= board) levels.push({ ...LEVEL, goods: [] });
    Object.assign(levels[board], values);
  },
  name: (before, _, { id, part, board, values }) =>
    `board ${board + 1}: ${describeChange(shelfOf(before, id, part).levels[board] ?? LEVEL, values, before.units)}`,
});

/** One level more over the edge of a shelf, as high as the one below it, or one less. */
export const setLevels = command<{ id: string; part: number; count: number; height: number }>({
  apply(scene, { id, part, count, height }) {
    const { levels } = shelfOf(scene, id, part);
    levels.length = Math.min(levels.length, count);
    while (levels.length < count)
      levels.push({ ...LEVEL, goods: [], height: levels.at(-1)?.height ?? height });
    // What has another level over it ends there.
    for (const l of levels.slice(0, -1)) l.height ??= height;
  },
  name: (_, __, { count }) => `${count} level${count === 1 ? '' : 's'}`,
});

/** What a hand says of one facing; a value of undefined lets it go. */
export type FacingValues = { [F in keyof FacingByHand]?: FacingByHand[F] | undefined };

/** Sets what a hand says of facings, by name. */
export const setFacings = command<{ id: string; facings: Record<string, FacingValues>; title?: string }>({
  apply(scene, { id, facings }) {
    const { byFacing } = findStock(scene, id);
    for (const [name, values] of Object.entries(facings)) {
      const next = Object.fromEntries(
        Object.entries({ ...byFacing[name], ...values }).filter(([, v]) => v !== undefined),
      );
      if (Object.keys(next).length > 0) byFacing[name] = next;
      else delete byFacing[name];
    }
  },
  name(before, _, { id, facings, title }) {
    if (title) return title;
    const names = Object.keys(facings);
    const now = findStock(before, id).byFacing[names[0]] ?? {};
    const what = names.length === 1 ? `facing ${names[0]}` : `${names.length} facings`;
    return `${what}: ${describeChange(now, facings[names[0]], before.units)}`;
  },
});

/** Lets go of all that a hand said of facings. */
export const letFacingsGo = command<{ id: string }>({
  apply: (scene, { id }) => void (findStock(scene, id).byFacing = {}),
  name: () => 'let all facings go',
});

type OnShelf = Stock['onShelf'][string];
/** What a shelf needs to know of a prop; a value of undefined takes it back. */
export type OnShelfValues = { [F in keyof OnShelf]?: OnShelf[F] | undefined };

/** Says what a shelf needs to know of a prop. */
export const setOnShelf = command<{ id: string; prop: string; values: OnShelfValues }>({
  apply(scene, { id, prop, values }) {
    const { onShelf } = findStock(scene, id);
    const next = Object.fromEntries(
      Object.entries({ ...onShelf[prop], ...values }).filter(([, v]) => v !== undefined),
    );
    if (Object.keys(next).length > 0) onShelf[prop] = next;
    else delete onShelf[prop];
  },
  name: (before, _, { id, prop, values }) => {
    const { name } = findProp(before, prop);
    return `${name}: ${describeChange(findStock(before, id).onShelf[prop] ?? {}, values, before.units)}`;
  },
});
