import { dot, normalize, type Vec3 } from '../../math/vec3';
import { boxBetween, field, posed, roomByPairs, treeOf } from '../../testing/plumb';
import { FOUND, GIVEN, giveRow, restAll, Rester, type RestJob } from './rests';

/** Boxes of two sizes on a ground of waves, each by itself. */
const box = (w: number, h: number) => boxBetween([-w, 0, -w], [w, h, w]);
const boxes = [box(0.4, 1), box(0.7, 0.5)];
const corners = (w: number): Vec3[] => [
  [w, 0, w],
  [w, 0, -w],
  [-w, 0, -w],
  [-w, 0, w],
];
type Height = (x: number, z: number) => number;
const ground = (height: Height) => field(24, 8, height);
const TURN = [0.8, 0, 0.6, 0, 1, 0, -0.6, 0, 0.8];

function jobOn(height: Height, rows: number): RestJob {
  const given: number[] = [];
  for (let i = 0; i < rows; i++) {
    const [x, z] = [Math.sin(i * 1.7) * 2.5, Math.cos(i * 2.3) * 2.5];
    const at: Vec3 = [x, height(x, z), z];
    giveRow(given, i % 2, { m: TURN, size: 1, at, d: [0, -1, 0], up: [0, 1, 0], slope: [0, 1, 0] });
  }
  return {
    grounds: [treeOf(ground(height))],
    things: boxes.map((b, i) => ({ tree: treeOf(b), base: corners([0.4, 0.7][i]), reach: 1.2 })),
    tilts: true,
    rows,
    given: Float64Array.from(given),
    found: new Float64Array(rows * FOUND),
  };
}

test('on a slope all of many lie flat, and the room that is found is that of pairs of triangles', () => {
  const [a, b] = [0.3, -0.2];
  const slope: Height = (x, z) => a * x + b * z;
  const job = jobOn(slope, 12);
  restAll(job);
  for (let row = 0; row < job.rows; row++) {
    const found = job.found.subarray(row * FOUND, (row + 1) * FOUND);
    const normal: Vec3 = [found[0], found[1], found[2]];
    expect(dot(normal, normalize([-a, 1, -b]))).toBeCloseTo(1, 12);
    const at = job.given.subarray(row * GIVEN + 2, row * GIVEN + 5);
    const thing = posed(boxes[row % 2], [...found.subarray(3, 12)], [at[0], at[1], at[2]]);
    expect(found[12]).toBeCloseTo(roomByPairs(thing, ground(slope)), 9);
  }
});

test('what does not tilt is let down as it stands, by the room of pairs of triangles', () => {
  const waves: Height = (x, z) => 0.3 * Math.sin(2 * x) * Math.cos(1.7 * z);
  const job = { ...jobOn(waves, 12), tilts: false };
  restAll(job);
  for (let row = 0; row < job.rows; row++) {
    const [found, at] = [job.found[row * FOUND + 12], job.given.subarray(row * GIVEN + 2, row * GIVEN + 5)];
    const thing = posed(boxes[row % 2], TURN, [at[0], at[1], at[2]]);
    expect(found).toBeCloseTo(roomByPairs(thing, ground(waves)), 9);
    expect(found).toBeLessThan(0);
  }
});

test('rows done in any order, and more than once, come out the same to the last bit', () => {
  const waves: Height = (x, z) => 0.3 * Math.sin(2 * x) * Math.cos(1.7 * z);
  const [once, other] = [jobOn(waves, 40), jobOn(waves, 40)];
  // Some stand in one place, one after the other.
  for (const job of [once, other]) job.given.copyWithin(GIVEN * 11, GIVEN * 9, GIVEN * 10);
  restAll(once);
  const rester = new Rester(other);
  for (let row = 39; row >= 0; row--) rester.rest(row);
  for (let row = 0; row < 40; row += 3) rester.rest(row);
  expect(other.found).toEqual(once.found);
  expect(new Set(once.found).size).toBeGreaterThan(200);
});
