import fc from 'fast-check';
import type { Vec3 } from '../../math/vec3';
import { cases, SEED } from '../../testing/prove';
import { triMeshOf } from '../../testing/surfaces';
import { firstHit, noHit } from '../bvhQuery';
import { placeOn, type TriMesh } from '../triMesh';
import { shortestWay } from './shortestWay';

/** Ways over surfaces that unroll, against straight lines on what they are unrolled to; over others, against bounds. */

const place = fc.double({ min: -3.9, max: 3.9, noNaN: true });

test('on a plane it is straight, however its faces lie', () => {
  const plane = triMeshOf({ shape: 'plane', width: 8, depth: 8, columns: 13, rows: 9 });
  fc.assert(
    fc.property(place, place, place, place, (x, z, u, w) => {
      const way = shortestWay(plane, [x, 0, z], [u, 0, w])!;
      expect(Math.abs(way - Math.hypot(x - u, z - w))).toBeLessThan(1e-9);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});

test('over a folded roof and round a drum of flat sides it is straight on what they are unrolled to', () => {
  // Up and down at 45°, and level at the ends: what is along x is longer there by the root of two.
  const fold = (x: number) => (x < -2 ? x : x > 2 ? x + 4 * (Math.SQRT2 - 1) : -2 + (x + 2) * Math.SQRT2);
  const height = (x: number) => (Math.abs(x) > 2 ? 0 : 2 - Math.abs(x));
  const roof = triMeshOf({ shape: 'plane', width: 8, depth: 8, columns: 8, rows: 5 }, ([x, , z]) => [
    x,
    height(x),
    z,
  ]);
  // A plane rolled round: 24 flat sides of a drum, open at the seam.
  const n = 24;
  const radius = 8 / (2 * n * Math.sin(Math.PI / n));
  const round = (x: number): [number, number] => {
    const side = ((x + 4) / 8) * n;
    const i = Math.min(n - 1, Math.floor(side));
    const at = (k: number) => [
      radius * Math.cos((2 * Math.PI * k) / n),
      radius * Math.sin((2 * Math.PI * k) / n),
    ];
    const [p, q] = [at(i), at(i + 1)];
    return [p[0] + (q[0] - p[0]) * (side - i), p[1] + (q[1] - p[1]) * (side - i)];
  };
  const drum = triMeshOf({ shape: 'plane', width: 8, depth: 8, columns: n, rows: 7 }, ([x, , z]) => {
    const [a, b] = round(x);
    return [a, z, b];
  });
  fc.assert(
    fc.property(place, place, place, place, (x, z, u, w) => {
      const over = shortestWay(roof, [x, height(x), z], [u, height(u), w])!;
      expect(Math.abs(over - Math.hypot(fold(x) - fold(u), z - w))).toBeLessThan(1e-6);
      // Where both ways round are nearly alike it may be either.
      if (Math.abs(x - u) > 3) return;
      const [p, q] = [round(x), round(u)];
      const about = shortestWay(drum, [p[0], z, p[1]], [q[0], w, q[1]])!;
      expect(Math.abs(about - Math.hypot(x - u, z - w))).toBeLessThan(1e-6);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});

test('over hills no way of many tried is shorter, nor the straight one; both ways are alike; beside it is none', () => {
  const hills = triMeshOf({ shape: 'hills', width: 8, depth: 8, height: 2, seed: 5 });
  const hit = noHit();
  const at = (x: number, z: number): Vec3 => {
    firstHit(hills.tree(), x, 9, z, 0, -1, 0, 0, 20, hit);
    return placeOn(hills, hit.face, hit.u, hit.v);
  };
  fc.assert(
    fc.property(place, place, place, place, (x, z, u, w) => {
      const [a, b] = [at(x, z), at(u, w)];
      const way = shortestWay(hills, a, b)!;
      expect(way).toBeGreaterThanOrEqual(Math.hypot(...a.map((v, k) => v - b[k])) - 1e-9);
      expect(Math.abs(shortestWay(hills, b, a)! - way)).toBeLessThan(0.02 * way + 1e-6);
      // Over the ground straight from above, and by a bow to either side.
      for (const bow of [0, 0.2, -0.2])
        expect(way).toBeLessThan(along(hills, at, [x, z], [u, w], bow) + 1e-6);
    }),
    { seed: SEED, numRuns: cases(500) },
  );
  expect(shortestWay(hills, [0, 40, 0], at(1, 1))).toBeNull();
  // Beside a corner of faces, and on it: no way round by another one.
  const [corner, beside] = [at(0, 0), at(-1.8429585139229101e-7, 0)];
  expect(shortestWay(hills, corner, beside)).toBeLessThan(1e-6);
  expect(shortestWay(hills, beside, corner)).toBeLessThan(1e-6);
});

/** How long a way is that is straight from above, or bowed by a share of its length, in a thousand steps. */
function along(
  _: TriMesh,
  at: (x: number, z: number) => Vec3,
  a: number[],
  b: number[],
  bow: number,
): number {
  let sum = 0;
  let last: Vec3 | null = null;
  for (let i = 0; i <= 1000; i++) {
    const t = i / 1000;
    const s = 4 * t * (1 - t) * bow;
    const x = a[0] + (b[0] - a[0]) * t - (b[1] - a[1]) * s;
    const z = a[1] + (b[1] - a[1]) * t + (b[0] - a[0]) * s;
    const p = at(Math.max(-3.95, Math.min(3.95, x)), Math.max(-3.95, Math.min(3.95, z)));
    if (last) sum += Math.hypot(...p.map((v, k) => v - last![k]));
    last = p;
  }
  // Its steps cut corners by less than that.
  return sum * 1.002;
}
