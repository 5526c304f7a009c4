import fc from 'fast-check';
import { quatTurnTipRoll } from '../../math/quat';
import { cross, dot, sub, type Vec3 } from '../../math/vec3';
import {
  bollard,
  boxBetween,
  field,
  posed,
  roomByPairs,
  rowsOf,
  SAME,
  together,
  treeOf,
  type Triangles,
} from '../../testing/plumb';
import { cases } from '../../testing/prove';
import { convexHull } from './convexHull';
import { Fall, newFaller } from './fall';
import { heldBy } from './heldBy';
import { Holds } from './holds';
import { hullOf } from './hull';
import { Tilt } from './tilt';

const place = fc.tuple(
  ...([0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true })) as [
    fc.Arbitrary<number>,
    fc.Arbitrary<number>,
    fc.Arbitrary<number>,
  ]),
);
const volumeOf = (points: readonly Vec3[], faces: readonly (readonly number[])[]): number =>
  faces.reduce((sum, [a, b, c]) => sum + dot(points[a], cross(points[b], points[c])) / 6, 0);

const table = together(
  boxBetween([-0.5, 0.4, -0.5], [0.5, 0.5, 0.5]),
  ...[-1, 1].flatMap((x) =>
    [-1, 1].map((z) =>
      boxBetween([x * 0.45 - 0.05, 0, z * 0.45 - 0.05], [x * 0.45 + 0.05, 0.4, z * 0.45 + 0.05]),
    ),
  ),
);

test('a hull is closed, made of points given, and has all of them on or under each of its faces', () => {
  fc.assert(
    fc.property(fc.array(place, { minLength: 4, maxLength: 40 }), (points) => {
      const faces = convexHull(points);
      if (!faces) return;
      const edges = new Set(faces.flatMap((f) => f.map((p, k) => `${p} ${f[(k + 1) % 3]}`)));
      expect(edges.size).toBe(faces.length * 3);
      for (const edge of edges) expect(edges).toContain(edge.split(' ').reverse().join(' '));
      for (const [a, b, c] of faces) {
        const n = cross(sub(points[b], points[a]), sub(points[c], points[a]));
        const l = Math.sqrt(dot(n, n));
        for (const p of points) expect(dot(n, sub(p, points[a]))).toBeLessThan(1e-9 * Math.max(l, 1e-3));
      }
    }),
    { numRuns: cases(3000) },
  );
});

test('a grid of points over a box has the hull of its eight corners; what is flat has none', () => {
  const grid: Vec3[] = [];
  for (let x = 0; x < 5; x++)
    for (let y = 0; y < 4; y++) for (let z = 0; z < 4; z++) grid.push([x / 2, y / 3, z / 7]);
  const faces = convexHull(grid)!;
  expect(new Set(faces.flat()).size).toBe(8);
  expect(volumeOf(grid, faces)).toBeCloseTo((2 * 1 * 3) / 7, 12);
  expect(convexHull(grid.map(([x, y]): Vec3 => [x, y, x + 2 * y]))).toBeNull();
  expect(convexHull(grid.slice(0, 3))).toBeNull();
});

test('it knows what of it the thing has: feet and not the air between them, sides in pieces and not with a hole', () => {
  const stands = hullOf(Float64Array.from(table))!;
  const isUnder = (side: number) => stands.sides[side * 4 + 1] < -1e-9;
  const under = [...stands.isSideReal.keys()].filter(isUnder);
  expect(under).toHaveLength(1);
  expect(stands.isSideReal[under[0]]).toBe(0);
  // The edges about the table top are its own, those from foot to foot are not.
  const heights = [...stands.isEdgeReal.keys()].map((e) =>
    [0, 1].map((k) => stands.points[stands.edges[e * 2 + k] * 3 + 1]),
  );
  heights.forEach(([a, b], e) => {
    if (a === b) expect(stands.isEdgeReal[e]).toBe(a === 0 ? 0 : 1);
  });
  // Of two boxes end to end each long side is two of theirs.
  const two = together(boxBetween([0, 0, 0], [1, 1, 1]), boxBetween([1, 0, 0], [2, 1, 1]));
  const whole = hullOf(two)!;
  expect([...whole.isSideReal]).toEqual([1, 1, 1, 1, 1, 1]);
  expect([...whole.isEdgeReal].every(Boolean)).toBe(true);
  const open = hullOf(two.subarray(9))!;
  expect([...open.isSideReal].filter((r) => r === 0)).toHaveLength(1);
});

test('asked of the hull first, a thing falls as far onto any ground as by a look at every pair', () => {
  const number = fc.double({ min: 0, max: 1, noNaN: true });
  let byHull = 0;
  let asked = 0;
  const check = (thing: Triangles, ground: Triangles, m: number[], foot: Vec3) => {
    const fall = new Fall([treeOf(ground)]);
    fall.from(foot, [0, -1, 0]);
    const faller = newFaller(treeOf(thing));
    const room = fall.room(faller, m);
    asked++;
    expect(room).toBeCloseTo(roomByPairs(posed(thing, m, foot), ground), 5);
    if (!fall.isByHull) return;
    byHull++;
    // What held it is known: a hold that leaves it just this room.
    const holds = new Holds();
    expect(heldBy(fall, faller, m, holds)).toBe(true);
    const tilt = new Tilt().of({ m, up: [0, 1, 0] }, fall.frame);
    tilt.to([0, 1, 0]);
    expect(holds.look(tilt)).toBeCloseTo(room, 6);
    expect(holds.reaches(0)).toBe(true);
  };
  fc.assert(
    fc.property(number, number, number, number, fc.boolean(), (a, b, c, d, flips) => {
      const ground = field(
        12,
        3,
        (u, v) => Math.sin(u * (2 + a * 9) + b * 7) * Math.cos(v * 5 + c * 7) * 0.3 * d - 2,
      );
      const tilt = rowsOf(quatTurnTipRoll(a * 6, (b - 0.5) * 1.2, (c - 0.5) * 1.2), [
        1 + d,
        1,
        flips ? -1 : 1,
      ]);
      for (const thing of [bollard, boxBetween([-0.2, 0, -0.3], [0.2, 0.3, 0.3]), table])
        for (const m of [SAME, tilt]) check(thing, ground, [...m], [b - 0.5, 0.3, c - 0.5]);
    }),
    { numRuns: cases(1500) },
  );
  expect(byHull).toBeGreaterThan(asked * 0.6);
});
