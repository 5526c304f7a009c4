import fc from 'fast-check';
import { quatTurnTipRoll, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { boxBetween, rowsOf, together, treeOf } from '../testing/plumb';
import { cases } from '../testing/prove';
import { boxesOverlap, newBoxes, writeBox } from './boxes';
import { buildBoxTree, eachPair } from './boxTree';
import { isInside, meshesCross, type Seen } from './crossing';

const unit = { min: [-0.5, -0.5, -0.5], max: [0.5, 0.5, 0.5] };
const cube = treeOf(boxBetween([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5]));
const angle = fc.double({ min: -3, max: 3, noNaN: true });
const away = fc.double({ min: -1.6, max: 1.6, noNaN: true });
const size = fc.double({ min: 0.2, max: 2, noNaN: true });

const placed = (q: Quat, s: Vec3, at: Vec3): Seen => ({
  tree: cube,
  m: Float64Array.from(rowsOf(q, s)),
  at: Float64Array.from(at),
});
const boxesOf = (...all: [Quat, Vec3, Vec3][]) => {
  const boxes = newBoxes(all.length);
  const p = {
    position: Float64Array.from(all.flatMap((b) => b[2])),
    rotation: Float64Array.from(all.flatMap((b) => b[0])),
    scale: Float64Array.from(all.flatMap((b) => b[1])),
  };
  all.forEach((_, i) => writeBox(boxes, i, unit, p, i));
  return boxes;
};

test('cubes of any size and turn cross, or hold each other, just where separating axes say that they overlap', () => {
  fc.assert(
    fc.property(angle, angle, angle, size, size, size, away, away, away, (t, p, r, x, y, z, u, v, w) => {
      const q = quatTurnTipRoll(t, p, r);
      const [a, b] = [placed([0, 0, 0, 1], [1, 1, 1], [0, 0, 0]), placed(q, [x, y, z], [u, v, w])];
      const boxes = boxesOf(
        [
          [0, 0, 0, 1],
          [1, 1, 1],
          [0, 0, 0],
        ],
        [q, [x, y, z], [u, v, w]],
      );
      const within =
        isInside(cube, u, v, w) || (x > 1 && y > 1 && z > 1 && boxesOverlap(boxes, 0, boxes, 1, 0.2));
      const meets = meshesCross(a, b, 1e-9) || within;
      if (boxesOverlap(boxes, 0, boxes, 1, 1e-3)) expect(meets).toBe(true);
      else if (!boxesOverlap(boxes, 0, boxes, 1, -1e-3)) expect(meets).toBe(false);
    }),
    { numRuns: cases(20000) },
  );
});

test('face on face and side by side they touch and do not cross', () => {
  const at = (x: number, y: number, z: number) => placed([0, 0, 0, 1], [1, 1, 1], [x, y, z]);
  expect(meshesCross(at(0, 0, 0), at(1, 0, 0), 1e-9)).toBe(false);
  expect(meshesCross(at(0, 0, 0), at(1, 1, 0.3), 1e-9)).toBe(false);
  expect(meshesCross(at(0, 0, 0), at(0.9, 0.2, 0.3), 1e-9)).toBe(true);
  // A slab let into another by less than the depth that is borne.
  expect(meshesCross(at(0, 0, 0), at(1 - 1e-6, 0.2, 0.3), 1e-5)).toBe(false);
});

test('inside a hollow thing is outside of it; an open one has no inside beyond its rim', () => {
  const shell = treeOf(
    together(boxBetween([-1, -1, -1], [1, 1, 1]), boxBetween([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5])),
  );
  expect(isInside(shell, 0, 0, 0)).toBe(false);
  expect(isInside(shell, 0.8, 0.1, 0.2)).toBe(true);
  expect(isInside(shell, 1.2, 0.1, 0.2)).toBe(false);
  const sheet = treeOf(Float64Array.of(-1, 0, -1, 1, 0, -1, 0, 0, 1));
  expect(isInside(sheet, 0, -0.1, 0)).toBe(false);
});

test('a tree finds every two boxes that touch, once, as a look at all of them does', () => {
  const place = fc.tuple(angle, angle, size, fc.double({ min: -6, max: 6, noNaN: true }), away, away);
  fc.assert(
    fc.property(fc.array(place, { maxLength: 60 }), fc.array(place, { maxLength: 20 }), (some, others) => {
      const [a, b] = [some, others].map((list) =>
        boxesOf(
          ...list.map(([t, p, s, x, y, z]): [Quat, Vec3, Vec3] => [
            quatTurnTipRoll(t, p, 0),
            [s, s / 2, s],
            [x, y, z],
          ]),
        ),
      );
      const [one, two] = [buildBoxTree(a), buildBoxTree(b)];
      const found: string[] = [];
      eachPair(one, one, (i, j) => boxesOverlap(a, i, a, j, 0) && found.push(`${i} ${j}`));
      eachPair(one, two, (i, j) => boxesOverlap(a, i, b, j, 0) && found.push(`${i}+${j}`));
      const want: string[] = [];
      for (let i = 0; i < a.count; i++) {
        for (let j = i + 1; j < a.count; j++) if (boxesOverlap(a, i, a, j, 0)) want.push(`${i} ${j}`);
        for (let j = 0; j < b.count; j++) if (boxesOverlap(a, i, b, j, 0)) want.push(`${i}+${j}`);
      }
      expect(found.sort()).toEqual(want.sort());
    }),
    { numRuns: cases(2000) },
  );
});
