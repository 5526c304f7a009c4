import fc from 'fast-check';
import { gaussLegendre } from '../math/gauss';
import { compiled, points } from '../testing/paths';
import { compilePath, type CompiledPath } from './compile';
import { arcLengthAt, pointAt, samplePath } from './sample';
import { findSpan, parameterAt, speedAt } from './arcLength';
import type { Vec3 } from '../math/vec3';
import { cases } from '../testing/prove';

const RULE = gaussLegendre(64);

/** Reference length of segment k from 0 to t: 64-point Gauss–Legendre on pieces graded towards the slow places. */
function reference(path: CompiledPath, k: number, t: number): number {
  const cuts = new Set([0, t]);
  for (let i = 1; i < 64; i++) cuts.add((t * i) / 64);
  // Speed is least near a cusp: grade the pieces towards the slowest place found.
  let slow = 0;
  for (let i = 0; i <= 4096; i++)
    if (speedAt(path.powers, k, i / 4096) < speedAt(path.powers, k, slow)) slow = i / 4096;
  for (let i = 0; i < 48; i++)
    for (const side of [-1, 1]) {
      const c = slow + side * 2 ** -i;
      if (c > 0 && c < t) cuts.add(c);
    }
  if (slow < t) cuts.add(slow);
  const sorted = [...cuts].sort((a, b) => a - b);
  let sum = 0;
  for (let i = 0; i + 1 < sorted.length; i++) {
    const half = (sorted[i + 1] - sorted[i]) / 2;
    const mid = (sorted[i + 1] + sorted[i]) / 2;
    for (let j = 0; j < 64; j++)
      sum += RULE.weights[j] * speedAt(path.powers, k, mid + half * RULE.nodes[j]) * half;
  }
  return sum;
}

const wavy = points('smooth', [
  [0, 0, 0],
  [1, 2, 0],
  [3, 1, 4],
  [4, 0, -2],
  [9, 3, 1],
]);
const free = points('free', [
  [0, 0, 0],
  [4, 0, 0],
]);

const CASES: [string, CompiledPath][] = [
  ['smooth', compiled(wavy)],
  ['closed', compiled(wavy, true)],
  [
    'corners',
    compiled(
      points('corner', [
        [0, 0, 0],
        [3, 0, 0],
        [3, 4, 0],
      ]),
    ),
  ],
  // Handles crossed so that the speed falls to nothing in the middle: an exact cusp.
  [
    'cusp',
    compiled([
      { ...free[0], handleOut: [4, 3, 0] },
      { ...free[1], handleIn: [-4, 3, 0] },
    ]),
  ],
  ['handles of no length', compiled([{ ...free[0] }, { ...free[1], handleIn: [-1, 2, 0] }])],
  [
    'coincident points',
    compiled(
      points('smooth', [
        [0, 0, 0],
        [1, 0, 0],
        [1, 0, 0],
        [2, 1, 0],
      ]),
    ),
  ],
  [
    'long and short sides',
    compiled(
      points('smooth', [
        [0, 0, 0],
        [1e-4, 0, 0],
        [1000, 2, 0],
        [1000, 2.001, 0],
      ]),
    ),
  ],
];

describe('arc length', () => {
  test.each(CASES)('%s: s(t) agrees with a 64-point reference to 1e-9', (_, path) => {
    let total = 0;
    for (let k = 0; k < path.segmentCount; k++) {
      for (const t of [0.1, 0.37, 0.5, 0.93, 1]) {
        expect(Math.abs(arcLengthAt(path, k, t) - total - reference(path, k, t))).toBeLessThan(
          1e-9 * path.length,
        );
      }
      total += reference(path, k, 1);
    }
    expect(Math.abs(path.length - total)).toBeLessThan(1e-9 * path.length);
  });

  test.each(CASES)('%s: t(s) is the inverse to 1e-9', (_, path) => {
    for (let i = 0; i <= 60; i++) {
      const s = (path.length * i) / 60;
      const span = findSpan(path.table, s);
      const k = path.table.segment[span];
      const t = parameterAt(path.table, path.powers, span, s);
      expect(Math.abs(path.table.segmentS[k] + reference(path, k, t) - s)).toBeLessThan(1e-9 * path.length);
    }
  });

  test('a straight path is exact to rounding', () => {
    const path = compiled(
      points('corner', [
        [0, 0, 0],
        [3, 0, 4],
      ]),
    );
    expect(path.length).toBeCloseTo(5, 13);
    pointAt(path, 2.5).forEach((v, i) => expect(v).toBeCloseTo([1.5, 0, 2][i], 13));
  });

  test('any points the schema admits give finite positions and unit tangents, or say why not', () => {
    const coordinate = fc.oneof(
      fc.constantFrom(0, 1, -1, 1e-9, 5),
      fc.double({ min: -100, max: 100, noNaN: true }),
    );
    const point = fc.record({
      kind: fc.constantFrom('corner' as const, 'smooth' as const, 'free' as const),
      at: fc.tuple(coordinate, coordinate, coordinate),
      handle: fc.tuple(coordinate, coordinate, coordinate),
      fillet: fc.constantFrom(0, 0.2, 50),
      tension: fc.constantFrom(0, 0.5, 1),
    });
    fc.assert(
      fc.property(fc.array(point, { maxLength: 6 }), fc.boolean(), (list, closed) => {
        const pts = list.map((p, i) => ({
          ...points(p.kind, [p.at as Vec3])[0],
          id: `pt${i}`,
          fillet: p.fillet,
          tension: p.tension,
          handleOut: p.handle as Vec3,
          handleIn: [p.handle[1], p.handle[0], p.handle[2]] as Vec3,
        }));
        const result = compilePath({ source: { kind: 'points', points: pts }, closed });
        if (!result.ok) return;
        const s = Array.from({ length: 41 }, (_, i) => (result.path.length * i) / 40);
        const { position, tangent } = samplePath(result.path, s);
        expect(position.every(Number.isFinite)).toBe(true);
        const off = s.map((_, i) => Math.abs(Math.hypot(...tangent.subarray(i * 3, i * 3 + 3)) - 1));
        expect(Math.max(...off)).toBeLessThan(5e-10);
      }),
      { numRuns: cases(10_000) },
    );
  });
});
