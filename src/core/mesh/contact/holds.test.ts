import fc from 'fast-check';
import { quatTurnTipRoll } from '../../math/quat';
import { dot, normalize, type Vec3 } from '../../math/vec3';
import { boxBetween, field, posed, roomByPairs, rowsOf, SAME, treeOf } from '../../testing/plumb';
import { cases } from '../../testing/prove';
import { Fall, newFaller } from './fall';
import { heldBy } from './heldBy';
import { Holds } from './holds';
import { planeUnder } from './planeUnder';
import { Tilt } from './tilt';

const DOWN: Vec3 = [0, -1, 0];
const UP: Vec3 = [0, 1, 0];
const box = boxBetween([-0.3, 0, -0.4], [0.3, 0.5, 0.4]);
const corners = [-0.3, 0.3].flatMap((x) => [-0.4, 0.4].map((z): Vec3 => [x, 0, x < 0 ? z : -z]));
/** A triangle too small to be anything but a place. */
const speck = ([x, y, z]: Vec3) => Float64Array.of(x - 1e-8, y, z, x + 1e-8, y, z, x, y, z + 1e-8);
const number = fc.double({ min: 0, max: 1, noNaN: true });
const hills = (a: number, b: number, c: number) =>
  field(12, 3, (u, v) => Math.sin(u * (2 + a * 6) + b * 7) * Math.cos(v * 4 + c * 7) * 0.2);

test('what nearly holds a thing is told with what holds it: by so much room, and nothing that is nearer is left out', () => {
  const NEAR = 0.2;
  const holds = new Holds();
  fc.assert(
    fc.property(number, number, number, (a, b, c) => {
      const ground = hills(a, b, c);
      const foot: Vec3 = [b - 0.5, 0, c - 0.5];
      const fall = new Fall([treeOf(ground)]);
      fall.from(foot, DOWN);
      const faller = newFaller(treeOf(box));
      const m = rowsOf(quatTurnTipRoll(a * 6, (b - 0.5) * 0.4, (c - 0.5) * 0.4), [1, 1, 1]);
      const room = fall.room(faller, m, Infinity, NEAR);
      if (!fall.isByHull) return;
      holds.count = 0;
      heldBy(fall, faller, m, holds);
      const tilt = new Tilt().of({ m, up: UP }, fall.frame);
      tilt.to(UP);
      expect(holds.look(tilt)).toBeCloseTo(room, 9);
      const rooms = Array.from(holds.room.subarray(0, holds.count));
      for (const corner of corners) {
        const own = roomByPairs(posed(speck(corner), m, foot), ground);
        if (own > room + NEAR * 0.6) continue;
        expect(Math.min(...rooms.map((r) => Math.abs(r - own)))).toBeLessThan(1e-6);
      }
      for (let k = 0; k < holds.count; k++) expect(holds.reaches(k)).toBe(true);
    }),
    { numRuns: cases(600) },
  );
});

test('the room of a hold changes with a tilt as it says, whatever meets', () => {
  const holds = new Holds();
  let told = 0;
  fc.assert(
    fc.property(number, number, number, number, (a, b, c, way) => {
      const fall = new Fall([treeOf(hills(a, b, c))]);
      fall.from([b - 0.5, 0, c - 0.5], DOWN, normalize([b - 0.5, 2, c - 0.5]));
      const faller = newFaller(treeOf(box));
      const m = rowsOf(quatTurnTipRoll(a * 6, 0, 0), [1, 1, 1]);
      const tilt = new Tilt().of({ m, up: UP }, fall.frame);
      tilt.to(normalize([a - 0.5, 3, b - 0.5]));
      fall.room(faller, tilt.m, Infinity, 0.2);
      holds.count = 0;
      heldBy(fall, faller, tilt.m, holds);
      const STEP = 1e-6;
      const [x, y] = [Math.cos(way * 6) * STEP, Math.sin(way * 6) * STEP];
      const { normal } = tilt;
      const ahead = tilt.further(x, y);
      tilt.to(normal);
      const behind = tilt.further(-x, -y);
      const roomsAt = (n: Vec3) => {
        tilt.to(n);
        holds.look(tilt);
        return Array.from(holds.room.subarray(0, holds.count));
      };
      const [after, before] = [roomsAt(ahead), roomsAt(behind)];
      roomsAt(normal);
      for (let k = 0; k < holds.count; k++) {
        if (!(Math.abs(holds.x[k]) + Math.abs(holds.y[k]) < 10)) continue;
        told++;
        expect((after[k] - before[k]) / 2 / STEP).toBeCloseTo((holds.x[k] * x + holds.y[k] * y) / STEP, 4);
      }
    }),
    { numRuns: cases(600) },
  );
  expect(told).toBeGreaterThan(20);
});

test('the plane under a thing is that of the ground, near by and over more faces than are gathered; none where there is none', () => {
  const slope = normalize([-0.3, 1, 0.2]);
  for (const cells of [4, 100]) {
    const fall = new Fall([treeOf(field(cells, 6, (x, z) => 0.3 * x - 0.2 * z))]);
    fall.from([0.1, 0, -0.2], DOWN);
    const faller = newFaller(treeOf(box));
    expect(dot(planeUnder(fall, faller, SAME, corners, 1)!, slope)).toBeCloseTo(1, 12);
    // Over the border one corner is in the air, three are still a plane; with two there is none.
    fall.from([2.8, 0, 0.1], DOWN);
    expect(planeUnder(fall, faller, SAME, corners, 2)).toBeNull();
    fall.from([0, 9, 0], DOWN);
    expect(planeUnder(fall, faller, SAME, corners, 1)).toBeNull();
  }
});

test('asked again it answers as it would anew: for another thing, another place, another ground under it', () => {
  const fall = new Fall([treeOf(hills(0.3, 0.7, 0.1))]);
  const things = [box, boxBetween([-0.1, -0.2, -0.1], [0.1, 0.2, 0.1])].map((t) => newFaller(treeOf(t)));
  for (const foot of [
    [0, 0, 0],
    [0.4, 0, 0.2],
    [0.4, 0.1, 0.2],
    [0, 0, 0],
  ] as Vec3[])
    for (const n of [0, 1, 0, 0]) {
      fall.from(foot, DOWN);
      const fresh = new Fall([treeOf(hills(0.3, 0.7, 0.1))]);
      fresh.from(foot, DOWN);
      const faller = newFaller(things[n].tree);
      expect(fall.room(things[n], SAME)).toBe(fresh.room(faller, SAME));
    }
});
