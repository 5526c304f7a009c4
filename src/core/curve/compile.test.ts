import { distance } from '../math/vec3';
import { circlePoints, compiled, points } from '../testing/paths';
import { compilePath } from './compile';
import { insertPoint, reversePoints, freeHandles } from './edit';
import { nearestOnPath } from './nearest';
import { arcLengthAt, pointAt, samplePath } from './sample';

const L = points('corner', [
  [0, 0, 0],
  [10, 0, 0],
  [10, 0, 10],
]);

describe('compile', () => {
  test('a fillet is a true arc, tangent to both sides', () => {
    const path = compiled(L.map((p) => ({ ...p, fillet: 2 })));
    expect(Math.abs(path.length - (16 + Math.PI))).toBeLessThan(2e-4);
    for (let i = 0; i <= 100; i++) {
      const p = pointAt(path, 8 + (Math.PI * i) / 100);
      expect(Math.abs(distance(p, [8, 0, 2]) - 2)).toBeLessThan(2e-4);
    }
    expect(path.corners).toHaveLength(0);
  });

  test('a fillet too large is clipped to its sides, and said', () => {
    const path = compiled(L.map((p) => ({ ...p, fillet: 50 })));
    expect(path.notes).toEqual([{ kind: 'fillet-clipped', pointId: 'pt2', amount: expect.closeTo(10, 9) }]);
    expect(Math.abs(path.length - 5 * Math.PI)).toBeLessThan(1e-3);
  });

  test('a closed path has the same length from any first point', () => {
    const pts = points('smooth', [
      [0, 0, 0],
      [4, 0, 1],
      [5, 0, 5],
      [-1, 2, 4],
    ]);
    const lengths = pts.map((_, i) => compiled([...pts.slice(i), ...pts.slice(0, i)], true).length);
    for (const l of lengths) expect(l).toBeCloseTo(lengths[0], 9);
  });

  test('too few points and no length are named', () => {
    const at = (pts: ReturnType<typeof points>) =>
      compilePath({ source: { kind: 'points', points: pts }, closed: false });
    expect(at(points('smooth', [[1, 2, 3]]))).toEqual({ ok: false, problem: 'too-few-points' });
    expect(
      at(
        points('smooth', [
          [1, 2, 3],
          [1, 2, 3],
        ]),
      ),
    ).toEqual({ ok: false, problem: 'zero-length' });
    const broken = points('corner', [
      [1, 2, 3],
      [4, 2, 3],
    ]).map((p) => ({ ...p, position: [NaN, 2, 3] as [number, number, number] }));
    expect(at(broken)).toEqual({ ok: false, problem: 'not-finite' });
  });

  test('tension 1 makes a smooth path straight between its points', () => {
    const pts = points(
      'smooth',
      [
        [0, 0, 0],
        [3, 4, 0],
        [6, 0, 0],
        [9, 4, 0],
      ],
      { tension: 1 },
    );
    const inner = compiled(pts);
    expect(inner.table.segmentS[2] - inner.table.segmentS[1]).toBeCloseTo(5, 9);
  });
});

describe('nearest point', () => {
  test.each([
    [
      'smooth',
      compiled(
        points('smooth', [
          [0, 0, 0],
          [2, 3, 1],
          [5, -1, 2],
          [8, 2, 0],
        ]),
      ),
    ],
    ['circle', compiled(circlePoints(3, 8), true)],
  ])('%s: never worse than 20,000 samples', (_, path) => {
    const s = Array.from({ length: 20001 }, (_, i) => (path.length * i) / 20000);
    const { position } = samplePath(path, s);
    for (let n = 0; n < 60; n++) {
      const q: [number, number, number] = [Math.sin(n) * 6, Math.cos(n * 2.1) * 4, Math.sin(n * 0.7) * 5];
      let brute = Infinity;
      for (let i = 0; i <= 20000; i++) {
        brute = Math.min(
          brute,
          Math.hypot(position[i * 3] - q[0], position[i * 3 + 1] - q[1], position[i * 3 + 2] - q[2]),
        );
      }
      const found = nearestOnPath(path, q);
      expect(found.distance).toBeLessThanOrEqual(brute + 1e-12);
      expect(distance(found.position, q)).toBeCloseTo(found.distance, 9);
    }
  });
});

describe('edits', () => {
  const pts = points(
    'smooth',
    [
      [0, 0, 0],
      [2, 3, 1],
      [5, -1, 2],
      [8, 2, 0],
    ],
    { rollDeg: 10 },
  );

  test('reverse runs the same curve the other way', () => {
    const there = compiled(pts);
    const back = compiled(reversePoints(pts));
    for (const u of [0, 0.2, 0.55, 1]) {
      expect(distance(pointAt(there, u * there.length), pointAt(back, (1 - u) * back.length))).toBeLessThan(
        1e-9,
      );
    }
  });

  test('a point put between free points leaves the curve as it was', () => {
    const path = compiled(circlePoints(2, 6), true);
    const at = { segment: 2, t: 0.3, s: arcLengthAt(path, 2, 0.3) };
    const made = insertPoint(circlePoints(2, 6), path, at, 'new');
    const after = compiled(made.points, true);
    expect(made.index).toBe(3);
    expect(after.length).toBeCloseTo(path.length, 9);
    for (let i = 0; i < 50; i++) {
      const s = (path.length * i) / 50;
      expect(distance(pointAt(path, s), pointAt(after, s))).toBeLessThan(1e-9);
    }
  });

  test('a smooth point made free keeps the curve', () => {
    const path = compiled(pts);
    const all = pts.map((p, i) => ({ ...p, kind: 'free' as const, ...freeHandles(path, i) }));
    expect(distance(pointAt(compiled(all), 3), pointAt(path, 3))).toBeLessThan(1e-9);
  });
});
