import fc from 'fast-check';
import type { Vec3 } from '../../math/vec3';
import { newPile } from './pile';
import { boxBetween, posed, rowsOf } from '../../testing/plumb';
import { cases } from '../../testing/prove';

/** Triangles of a box by the middle of its base and its size, turned about Y. */
const box = (at: Vec3, [x, y, z]: Vec3, turn = 0): Float64Array =>
  posed(
    boxBetween([-x / 2, 0, -z / 2], [x / 2, y, z / 2]),
    rowsOf([0, Math.sin(turn / 2), 0, Math.cos(turn / 2)], [1, 1, 1]),
    at,
  );
/** Corner points of triangles moved up. */
const raised = (t: Float64Array, by: number) => t.map((v, i) => (i % 3 === 1 ? v + by : v));
const DOWN: Vec3 = [0, -1, 0];

test('boxes rest on each other: wide on narrow, narrow on wide, planks laid across', () => {
  const pile = newPile(DOWN, 2);
  expect(pile.room(box([0, 5, 0], [1, 1, 1]))).toBe(Infinity);
  pile.add(box([0, 0, 0], [0.2, 1, 0.2]));
  // No corner of the wide one is over the post.
  expect(pile.room(box([0, 3, 0], [4, 0.5, 4]))).toBeCloseTo(2, 9);
  pile.add(box([0, 1, 0], [4, 0.5, 0.3]));
  // Across the plank: neither has a corner over the other.
  expect(pile.room(box([0.4, 2, 0], [0.3, 0.5, 4]))).toBeCloseTo(0.5, 9);
  // From below it is raised.
  expect(pile.room(box([0.4, 0, 0], [0.3, 0.5, 4]))).toBeCloseTo(-1.5, 9);
  // Side by side they only touch.
  expect(pile.room(box([0, 5, 2.3 / 2], [4, 1, 2]))).toBe(Infinity);
});

test('one a thousand times as wide as all others is in the pile like them, without walking what it covers', () => {
  const pile = newPile(DOWN, 0.5);
  pile.add(box([0, 0, 0], [20_000, 1, 20_000], 0.3));
  expect(pile.room(box([4000, 6, -900], [0.5, 0.5, 0.5]))).toBeCloseTo(5, 6);
  pile.add(box([4000, 1, -900], [0.5, 0.5, 0.5]));
  expect(pile.room(box([0, 9, 0], [20_000, 1, 20_000]))).toBeCloseTo(7.5, 6);
  expect(pile.room(box([30_000, 9, 0], [0.5, 0.5, 0.5]))).toBe(Infinity);
});

test('any two turned boxes: the room is the same as by a fine grid of plumb lines', () => {
  const size = fc.double({ min: 0.2, max: 2, noNaN: true });
  const place = fc.double({ min: -1, max: 1, noNaN: true });
  const angle = fc.double({ min: 0, max: 3, noNaN: true });
  fc.assert(
    fc.property(size, size, size, place, place, angle, (w, h, d, x, z, turn) => {
      const below = box([0, 0, 0], [1.4, 0.7, 0.9], 0.3);
      const above = box([x, 4, z], [w, h, d], turn);
      const pile = newPile(DOWN, 1);
      pile.add(below);
      const room = pile.room(above);
      // Both tops are level: wherever any plumb line meets both, that is the room.
      const inside = (px: number, pz: number, cx: number, cz: number, sx: number, sz: number, t: number) => {
        const [dx, dz] = [px - cx, pz - cz];
        const [u, v] = [dx * Math.cos(t) - dz * Math.sin(t), dx * Math.sin(t) + dz * Math.cos(t)];
        return Math.abs(u) < sx / 2 - 1e-4 && Math.abs(v) < sz / 2 - 1e-4;
      };
      let meet = false;
      for (let i = -60; i <= 60 && !meet; i++)
        for (let j = -60; j <= 60 && !meet; j++)
          meet = inside(i / 50, j / 50, 0, 0, 1.4, 0.9, 0.3) && inside(i / 50, j / 50, x, z, w, d, turn);
      if (meet) expect(room).toBeCloseTo(3.3, 9);
      else if (room < Infinity) expect(room).toBeCloseTo(3.3, 9);
    }),
    { numRuns: cases(3000) },
  );
});

test('on a slope and along any direction: moved by the room they touch, and not before', () => {
  const ramp = Float64Array.from([-2, 0, -2, 2, 2, -2, 2, 2, 2, -2, 0, -2, 2, 2, 2, -2, 0, 2]);
  const pile = newPile(DOWN, 2);
  pile.add(ramp);
  const crate = box([0.5, 6, 0], [1, 1, 1]);
  // Its uphill side touches first: the ramp is 1.5 m high at x = 1.
  expect(pile.room(crate)).toBeCloseTo(4.5, 5);
  expect(pile.room(raised(crate, -4.5))).toBeCloseTo(0, 5);
  const aside = newPile([1, 0, 0], 1);
  aside.add(box([3, 0, 0], [1, 1, 1]));
  expect(aside.room(box([0, 0.5, 0.2], [1, 1, 1]))).toBeCloseTo(2, 9);
});
