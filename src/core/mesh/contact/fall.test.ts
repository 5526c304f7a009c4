import fc from 'fast-check';
import {
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
import { triMeshOf } from '../../testing/surfaces';
import { quatTurnTipRoll } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { Fall, newFaller } from './fall';

const stool = together(
  boxBetween([-0.5, 0.4, -0.5], [0.5, 0.5, 0.5]),
  ...[-1, 1].flatMap((x) =>
    [-1, 1].map((z) =>
      boxBetween([x * 0.45 - 0.05, 0, z * 0.45 - 0.05], [x * 0.45 + 0.05, 0.4, z * 0.45 + 0.05]),
    ),
  ),
);
const room = (
  thing: Triangles,
  ground: Triangles,
  foot: Vec3 = [0, 0, 0],
  m = SAME,
  d: Vec3 = [0, -1, 0],
) => {
  const fall = new Fall([treeOf(ground)]);
  fall.from(foot, d);
  return fall.room(newFaller(treeOf(thing)), m);
};

test('over any uneven ground, turned and sized in any way, it falls as far as by a look at every pair', () => {
  const angle = fc.double({ min: -3, max: 3, noNaN: true });
  const size = fc.double({ min: 0.3, max: 2, noNaN: true });
  const number = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      angle,
      angle,
      angle,
      size,
      size,
      size,
      number,
      number,
      number,
      (turn, tip, roll, x, y, z, a, b, c) => {
        const ground = field(
          9,
          4,
          (u, v) => Math.sin(u * (3 + a * 9) + b * 7) * Math.cos(v * 5 + c * 7) * 0.6 - 3,
        );
        const m = rowsOf(quatTurnTipRoll(turn, tip, roll), [x, y, z]);
        const foot: Vec3 = [b - 0.5, 1, c - 0.5];
        // From above: all of the ground is beneath it, and no part is a roof.
        expect(room(stool, ground, foot, m)).toBeCloseTo(roomByPairs(posed(stool, m, foot), ground), 5);
      },
    ),
    { numRuns: cases(2000) },
  );
});

test('what stands up under it holds it, what reaches into it lifts it, to a millionth', () => {
  const level = field(3, 10, () => 0);
  // A rod under the seat, between the legs.
  const rod = (h: number) => together(level, boxBetween([-0.01, 0, -0.01], [0.01, h, 0.01]));
  expect(room(stool, rod(0.3))).toBeCloseTo(0, 9);
  expect(room(stool, rod(0.7))).toBeCloseTo(-0.3, 9);
  expect(room(stool, rod(0.7), [0, 2, 0])).toBeCloseTo(1.7, 9);
  // A plank that is crossed: no corner of either is over the other.
  expect(
    room(
      boxBetween([-2, 0, -0.1], [2, 0.1, 0.1]),
      together(level, boxBetween([-0.1, 0, -2], [0.1, 0.25, 2])),
    ),
  ).toBeCloseTo(-0.25, 9);
  // A small table top without thickness, wholly under a wide base and in it.
  const sheet = Float64Array.of(-0.2, 0.3, -0.2, 0.2, 0.3, 0.2, 0.2, 0.3, -0.2);
  expect(room(boxBetween([-1, 0, -1], [1, 1, 1]), together(level, sheet))).toBeCloseTo(-0.3, 9);
  // Flush with a wall it is beside it.
  expect(
    room(boxBetween([0, 0, 0], [1, 1, 1]), together(level, boxBetween([1, 0, -3], [1.2, 4, 3]))),
  ).toBeCloseTo(0, 9);
});

test('under a roof it stands where it fits, beside what overhangs its lower part too; else it comes through', () => {
  const level = field(3, 10, () => 0);
  const roof = (h: number) => field(2, 8, () => h);
  const post = boxBetween([-0.1, 0, -0.1], [0.1, 2, 0.1]);
  expect(room(post, together(level, roof(2.5)))).toBeCloseTo(0, 9);
  expect(room(post, together(level, roof(1.5)))).toBeCloseTo(-1.5, 9);
  // Lifted out of one floor it reaches into the next.
  expect(room(post, together(level, roof(1.5), roof(3)))).toBeCloseTo(-3, 9);
  expect(room(post, together(level, roof(1.5), roof(3.6)))).toBeCloseTo(-1.5, 9);
  // A chair with its seat under a table and its back beside it.
  const chair = together(
    boxBetween([-0.2, 0, -0.2], [0.2, 0.45, 0.2]),
    boxBetween([-0.2, 0, -0.25], [0.2, 1, -0.2]),
  );
  const table = boxBetween([-1, 0.7, -0.15], [1, 0.75, 1]);
  expect(room(chair, together(level, table))).toBeCloseTo(0, 9);
});

test('along any direction, onto several grounds; nothing beneath is said as Infinity', () => {
  const wall = field(3, 10, () => 0).map((_, n, t) => t[n - (n % 3) + [1, 0, 2][n % 3]]);
  const fall = new Fall([treeOf(wall), treeOf(field(2, 4, () => -7))]);
  const crate = newFaller(treeOf(boxBetween([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5])));
  fall.from([3, 0, 0], [-1, 0, 0]);
  expect(fall.room(crate, SAME)).toBeCloseTo(2.5, 9);
  fall.from([0.6, 0, 0], [0, -1, 0]);
  expect(fall.room(crate, SAME)).toBeCloseTo(6.5, 9);
  fall.from([30, 0, 0], [0, -1, 0]);
  expect(fall.room(crate, SAME)).toBe(Infinity);
});

test('onto the pole of a ball, where its faces are slivers, nothing lands above or below it', () => {
  const plate = newFaller(treeOf(boxBetween([-0.1, 0, -0.1], [0.1, 0.02, 0.1])));
  for (const columns of [8, 24, 30]) {
    const ball = triMeshOf({ shape: 'sphere', radius: 2, columns, rows: 24 });
    const fall = new Fall([ball.tree()]);
    // A ball of faces lies within the round one, no deeper than the middles of its faces.
    const within = 2 * (1 - Math.cos(Math.PI / columns) * Math.cos(Math.PI / 48));
    for (let k = 0; k < 16; k++)
      for (const r of [0, 0.01371, 0.1, 0.3, 0.9]) {
        const angle = (Math.PI * k) / 8;
        // On the diagonals to the last bit.
        const [x, z] = [Math.cos(angle), Math.sin(angle)].map((a) => (k % 4 === 2 ? Math.sign(a) : a) * r);
        const nearest = Math.hypot(...[x, z].map((a) => Math.max(0, Math.abs(a) - 0.1)));
        const top = Math.sqrt(4 - nearest * nearest);
        fall.from([x, 3, z], [0, -1, 0]);
        const y = 3 - fall.room(plate, SAME);
        expect(y).toBeLessThan(top + 1e-9);
        expect(y).toBeGreaterThan(top - within - 1e-9);
      }
  }
});
