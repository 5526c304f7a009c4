import type { StockLayout } from '@/core/arrange/result';
import { lastOfGroup, movedTo, rightOf, widened } from './moves';
import { boundaryAt, facingAt, shopOf } from './shop';

/** Facings a b c d on one board, e f on the one over it, a metre each. */
const facings: StockLayout['facings'] = [...'abcdef'].map((name, i) => ({
  name,
  shelf: i < 4 ? 0 : 1,
  prop: i,
  x0: i % 4,
  x1: (i % 4) + 0.9,
  start: i,
  end: i + 1,
  deep: 1,
  high: 1,
}));
const layout: StockLayout = {
  shelves: [0, 1].map((board) => ({
    part: 0,
    board,
    length: 4,
    depth: 0.5,
    height: 0.8,
    at: [0, board, 0],
    closed: false,
  })),
  facings,
  box: new Float32Array(36),
};
const propOf = (f: number) => ['tin', 'tin', 'jar', 'jar', 'coil', null][f];
/** What stands in them after a change. */
const after = (change: ReturnType<typeof movedTo>) =>
  facings.map((f, i) => change[f.name]?.prop ?? propOf(i));

test('a facing moves to the place of another, those between by one; over boards two change places', () => {
  expect(after(movedTo(facings, propOf, 0, 2))).toEqual(['tin', 'jar', 'tin', 'jar', 'coil', null]);
  expect(after(movedTo(facings, propOf, 3, 1))).toEqual(['tin', 'jar', 'tin', 'jar', 'coil', null]);
  expect(after(movedTo(facings, propOf, 0, 4))).toEqual(['coil', 'tin', 'jar', 'jar', 'tin', null]);
  // A pause has no prop to give.
  expect(movedTo(facings, propOf, 5, 4)).toEqual({ f: { prop: 'coil' } });
});

test('a group widens by what its neighbour loses, either way, and not over the end of its board', () => {
  expect(lastOfGroup(facings, propOf, 0)).toBe(1);
  expect(after(widened(facings, propOf, 1, 3))).toEqual(['tin', 'tin', 'tin', 'jar', 'coil', null]);
  expect(after(widened(facings, propOf, 1, 0))).toEqual(['jar', 'jar', 'jar', 'jar', 'coil', null]);
  expect(after(widened(facings, propOf, 1, 6))).toEqual(['tin', 'tin', 'tin', 'tin', 'coil', null]);
  expect(rightOf(facings, 0, 1.3)).toBe(1);
  expect(rightOf(facings, 0, 1.5)).toBe(2);
  expect(rightOf(facings, 0, 9)).toBe(4);
});

test('in the shop every facing is found at its own pixels, and the edges between groups', () => {
  const shop = shopOf(layout, 'front', { width: 860, height: 420 }, { zoom: 1, x: 0, y: 0 });
  facings.forEach((f, i) => {
    const { x, y } = shop.shelves[f.shelf];
    expect(facingAt(layout, shop, x + ((f.x0 + f.x1) / 2) * shop.k, y - 3)).toBe(i);
  });
  // The upper board is drawn a metre higher.
  expect(shop.shelves[0].y - shop.shelves[1].y).toBeCloseTo(shop.k, 9);
  const { x, y } = shop.shelves[0];
  expect(boundaryAt(layout, shop, x + 0.95 * shop.k + 2, y - 3, 5)).toBe(0);
  expect(boundaryAt(layout, shop, x + 0.5 * shop.k, y - 3, 5)).toBe(-1);
  // In a low, wide panel boards stand side by side.
  const wide = shopOf(layout, 'front', { width: 1200, height: 150 }, { zoom: 1, x: 0, y: 0 });
  expect(wide.shelves[0].y).toBeCloseTo(wide.shelves[1].y, 9);
});
