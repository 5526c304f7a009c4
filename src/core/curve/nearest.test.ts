import fc from 'fast-check';
import { hypot } from '../math/portable';
import type { Vec3 } from '../math/vec3';
import { compiled, points } from '../testing/paths';
import { cases, SEED } from '../testing/prove';
import { nearestOnPath } from './nearest';
import { samplePath } from './sample';
import { eachNear, segmentTree } from './segmentTree';

const metre = fc.double({ min: -10, max: 10, noNaN: true });
const place = fc.tuple(metre, metre, metre);
const away = (a: Vec3, b: Vec3) => hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** How far a place is from a straight side. */
function fromSide(p: Vec3, a: Vec3, b: Vec3): number {
  const d = [0, 1, 2].map((k) => b[k] - a[k]);
  const square = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
  const along = square > 0 ? [0, 1, 2].reduce((sum, k) => sum + (p[k] - a[k]) * d[k], 0) / square : 0;
  const t = Math.min(1, Math.max(0, along));
  return away(p, [0, 1, 2].map((k) => a[k] + d[k] * t) as Vec3);
}

test('of many straight sides the nearest is found, as a look at each of them finds it', () => {
  fc.assert(
    fc.property(
      fc.array(place, { minLength: 2, maxLength: 60 }),
      place,
      fc.boolean(),
      (corners, from, closed) => {
        fc.pre(corners.some((c) => away(c, corners[0]) > 1e-3) && (!closed || corners.length > 2));
        const near = nearestOnPath(compiled(points('corner', corners), closed), from);
        const sides = corners.map((a, i) => [a, corners[(i + 1) % corners.length]]);
        const wanted = (closed ? sides : sides.slice(0, -1)).map(([a, b]) => fromSide(from, a, b));
        expect(near.distance).toBeCloseTo(Math.min(...wanted), 8);
        expect(away(near.position, from)).toBeCloseTo(near.distance, 7);
      },
    ),
    { seed: SEED, numRuns: cases(5000) },
  );
});

test('of a long smooth path no place is nearer than the one that is found', () => {
  const long = compiled(
    points(
      'smooth',
      Array.from({ length: 300 }, (_, i): Vec3 => [9 * Math.sin(i), 9 * Math.cos(i * 1.7), (i % 23) / 2 - 5]),
    ),
  );
  const s = Float64Array.from({ length: 60_000 }, (_, i) => (long.length * i) / 59_999);
  const { position } = samplePath(long, s);
  fc.assert(
    fc.property(place, (from) => {
      let least = Infinity;
      for (let o = 0; o < position.length; o += 3)
        least = Math.min(
          least,
          hypot(position[o] - from[0], position[o + 1] - from[1], position[o + 2] - from[2]),
        );
      const near = nearestOnPath(long, from);
      expect(near.distance).toBeLessThanOrEqual(least + 1e-9);
      expect(near.distance).toBeGreaterThan(least - long.length / 60_000);
    }),
    { seed: SEED, numRuns: cases(500) },
  );
});

test('sixteen times as many segments are looked at about as often', () => {
  const looks = (n: number): number => {
    const path = compiled(
      points(
        'corner',
        Array.from({ length: n + 1 }, (_, i): Vec3 => [i / n, 0, 0]),
      ),
    );
    let best = Infinity;
    let count = 0;
    eachNear(
      segmentTree(path),
      [0.37, 0.2, 0],
      () => best,
      (k) => {
        count++;
        best = Math.min(best, fromSide([0.37, 0.2, 0], [k / n, 0, 0], [(k + 1) / n, 0, 0]) ** 2);
      },
    );
    return count;
  };
  expect(looks(8000)).toBeLessThan(looks(500) + 12);
  expect(looks(8000)).toBeLessThan(24);
});
