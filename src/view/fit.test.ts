import fc from 'fast-check';
import { cross, dot, normalize, sub, type Vec3 } from '@/core/math/vec3';
import { broadened, fitEye, fitStraight, type Box } from './fit';

/** All of a box is in the frame, and no camera nearer along the same way holds it. */

const insets = { top: 0.12, bottom: 0.09, left: 0.03, right: 0.02 };
const half = Math.tan((20 * Math.PI) / 180);
const number = fc.double({ min: -20, max: 20, noNaN: true });
const extent = fc.double({ min: 0.1, max: 30, noNaN: true });
const cases = fc.tuple(
  number,
  number,
  number,
  extent,
  extent,
  extent,
  number,
  number,
  fc.double({ min: 0.5, max: 3, noNaN: true }),
);
const boxOf = ([x, y, z, w, h, d]: readonly number[]): Box => ({
  min: [x, y, z],
  max: [x + w, y + h, z + d],
});
const wayOf = (turn: number, rise: number): Vec3 =>
  normalize([Math.sin(turn), Math.sin(rise) * 0.9, Math.cos(turn)], [0, 0, 1]);
const corners = ({ min, max }: Box) =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [0, 1, 2].map((a) => (k & (1 << a) ? max[a] : min[a])) as Vec3);
const axes = (way: Vec3) => {
  const right = normalize(cross([0, 1, 0], way), [1, 0, 0]);
  return [right, cross(way, right)];
};

test('in perspective: every corner within the borders, and one of them on two opposite ones', () => {
  fc.assert(
    fc.property(cases, ([x, y, z, w, h, d, turn, rise, aspect]) => {
      const box = boxOf([x, y, z, w, h, d]);
      const way = wayOf(turn, rise);
      const { eye, target } = fitEye(box, way, { half, aspect, insets });
      const [right, up] = axes(way);
      // The camera looks against the way.
      const ahead = normalize(sub(eye, target), way);
      for (let a = 0; a < 3; a++) expect(ahead[a]).toBeCloseTo(way[a], 6);
      const seen = corners(box).map((p) => {
        const from = sub(p, eye);
        const depth = -dot(from, way);
        expect(depth).toBeGreaterThan(0);
        // Shares of the view from its left and lower border.
        return [0.5 + dot(from, right) / depth / half / aspect / 2, 0.5 + dot(from, up) / depth / half / 2];
      });
      const reach = (k: number) => [Math.min(...seen.map((s) => s[k])), Math.max(...seen.map((s) => s[k]))];
      const [[l, r], [b, t]] = [reach(0), reach(1)];
      const room = [l - insets.left, 1 - insets.right - r, b - insets.bottom, 1 - insets.top - t];
      for (const free of room) expect(free).toBeGreaterThan(-1e-6);
      expect(Math.min(room[0] + room[1], room[2] + room[3])).toBeLessThan(1e-6);
    }),
  );
});

test('straight: the box fills the frame in one direction, in the middle of what is free', () => {
  fc.assert(
    fc.property(cases, ([x, y, z, w, h, d, turn, rise, aspect]) => {
      const box = boxOf([x, y, z, w, h, d]);
      const way = wayOf(turn, rise);
      const { target, half: tall } = fitStraight(box, way, { aspect, insets });
      const [right, up] = axes(way);
      const share = (axis: Vec3, size: number) =>
        corners(box).map((p) => 0.5 + dot(sub(p, target), axis) / size / 2);
      const [across, above] = [share(right, tall * aspect), share(up, tall)];
      const room = [
        Math.min(...across) - insets.left,
        1 - insets.right - Math.max(...across),
        Math.min(...above) - insets.bottom,
        1 - insets.top - Math.max(...above),
      ];
      expect(room[0]).toBeCloseTo(room[1], 6);
      expect(room[2]).toBeCloseTo(room[3], 6);
      expect(Math.min(room[0], room[2])).toBeCloseTo(0, 6);
    }),
  );
});

test('a line that is seen from its end is not looked at from as near as if it were a point', () => {
  const line = broadened({ min: [-3, 0, 0], max: [3, 0, 0] });
  expect(line).toEqual({ min: [-3, -0.3, -0.3], max: [3, 0.3, 0.3] });
  const { half: seen } = fitStraight(line, [1, 0, 0], { aspect: 1.5, insets });
  expect(seen).toBeGreaterThan(0.3);
  const crate: Box = { min: [0, 0, 0], max: [1, 2, 3] };
  expect(broadened(crate)).toEqual(crate);
});
