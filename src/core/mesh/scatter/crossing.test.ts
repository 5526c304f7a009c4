import { random01 } from '../../math/random';
import { crossingOf } from './crossing';

type P = [x: number, z: number];
const crossing = (ring: P[]) => crossingOf(ring.flatMap(([x, z]) => [x, 0, z]));

test.each<[string, P[], P | null]>([
  ['a square does not', [[0, 0], [4, 0], [4, 4], [0, 4]], null], // prettier-ignore
  ['between its ends', [[-3, -2], [3, 2], [3, -2], [-3, 2]], [0, 0]], // prettier-ignore
  ['from corner to corner', [[-3, -2], [0, 0], [3, 2], [3, -2], [0, 0], [-3, 2]], [0, 0]], // prettier-ignore
  ['at a corner of one of the two', [[-3, 0], [3, 0], [3, 3], [0, 0], [0, -3], [-3, -3]], [0, 0]], // prettier-ignore
  ['two corners that touch do not', [[-3, -2], [0, 0], [3, -2], [3, 2], [0, 0], [-3, 2]], null], // prettier-ignore
  ['a corner that touches a side does not', [[-3, 0], [3, 0], [3, 3], [0, 0], [-1, 3], [-3, 3]], null], // prettier-ignore
  ['places that come twice change nothing', [[0, 0], [0, 0], [4, 0], [4, 4], [4, 4], [0, 4], [0, 0]], null], // prettier-ignore
])('where a line crosses itself: %s', (_, ring, at) => {
  const found = crossing(ring);
  expect(found && [found[0], found[2]]).toEqual(at);
});

test('any line crosses itself just where two of its sides do, held against all pairs', () => {
  const side = ([ax, az]: P, [bx, bz]: P, [x, z]: P) =>
    Math.sign((bx - ax) * (z - az) - (bz - az) * (x - ax));
  let crossed = 0;
  for (let k = 0; k < 300; k++) {
    const n = 4 + (k % 5);
    const ring = Array.from({ length: n }, (_, i): P => [random01(k, i, 1) * 9, random01(k, i, 2) * 5]);
    const sides = ring.map((p, i): [P, P] => [p, ring[(i + 1) % n]]);
    const meet = ([a, b]: [P, P], [c, d]: [P, P]) =>
      side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
    const does = sides.some((s, i) => sides.some((t, j) => j > i && meet(s, t)));
    const found = crossing(ring);
    expect(found !== null).toBe(does);
    if (!found) continue;
    crossed++;
    // It lies on two of them.
    const off = sides.filter(([[ax, az], [bx, bz]]) => {
      const away = (bx - ax) * (found[2] - az) - (bz - az) * (found[0] - ax);
      return Math.abs(away) < 1e-9 * Math.hypot(bx - ax, bz - az);
    });
    expect(off.length).toBeGreaterThanOrEqual(2);
  }
  expect(crossed).toBeGreaterThan(50);
  expect(crossed).toBeLessThan(280);
});
