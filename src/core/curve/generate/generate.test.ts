import { compileStrokes, type CompiledPath } from '../compile';
import { framesAlong } from '../frames';
import { samplePath } from '../sample';
import { generatorSchema, type Generator } from '../schema';
import { compiled, points } from '../../testing/paths';
import { distance, type Vec3 } from '../../math/vec3';
import { generate } from '.';
import { catenaryOfLength, catenaryOfSag, sagOf } from './strand';

function curve(g: object, base: CompiledPath[] = []): CompiledPath {
  const made = generate(generatorSchema.parse(g), base);
  if (made === 'too-fine') throw new Error(made);
  const result = compileStrokes(made.map((m) => ({ ...m, firstPoint: 0 })));
  if (!result.ok) throw new Error(result.problem);
  return result.path;
}

const at = (path: CompiledPath, n = 500): Vec3[] => {
  const { position } = samplePath(
    path,
    Array.from({ length: n + 1 }, (_, i) => (path.length * i) / n),
  );
  return Array.from({ length: n + 1 }, (_, i) => [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]]);
};

test('circle and arc lie on their radius, with the length of the closed form', () => {
  const circle = curve({ shape: 'circle', radius: 2.5 });
  expect(circle.closed).toBe(true);
  expect(Math.abs(circle.length - 5 * Math.PI)).toBeLessThan(5 * Math.PI * 1e-5);
  for (const p of at(circle)) expect(Math.abs(Math.hypot(p[0], p[2]) - 2.5)).toBeLessThan(2.5 * 1e-5);
  const arc = curve({ shape: 'arc', radius: 4, startDeg: 30, sweepDeg: -100 });
  expect(arc.closed).toBe(false);
  expect(Math.abs(arc.length - (4 * 100 * Math.PI) / 180)).toBeLessThan(1e-4);
  const [first] = at(arc);
  expect(distance(first, [4 * Math.cos(Math.PI / 6), 0, -2])).toBeLessThan(1e-9);
  expect(curve({ shape: 'arc', sweepDeg: 360 }).closed).toBe(true);
});

test('a rectangle with rounded corners, a polygon, a line and a polyline measure what they should', () => {
  const r = curve({ shape: 'rectangle', width: 8, depth: 5, fillet: 1 });
  expect(Math.abs(r.length - (2 * (6 + 3) + 2 * Math.PI))).toBeLessThan(1e-4);
  const hexagon = curve({ shape: 'polygon', sides: 6, radius: 3 });
  expect(hexagon.length).toBeCloseTo(18, 9);
  expect(hexagon.corners).toHaveLength(6);
  expect(curve({ shape: 'line', to: [3, 4, 12] }).length).toBeCloseTo(13, 12);
  const steps = {
    shape: 'polyline',
    corners: [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 2],
      [0, 0, 2],
    ],
    closed: true,
  };
  expect(curve(steps).length).toBeCloseTo(8, 12);
});

test('a helix and a flat spiral follow their formulas', () => {
  const g = { radius: 1.5, rise: 0.4, turns: 3.5 };
  const helix = curve({ shape: 'helix', ...g });
  const exact = g.turns * Math.hypot(2 * Math.PI * g.radius, g.rise);
  expect(Math.abs(helix.length / exact - 1)).toBeLessThan(1e-5);
  at(helix).forEach((p, i) => {
    const a = (2 * Math.PI * g.turns * i) / 500;
    expect(distance(p, [1.5 * Math.cos(a), (g.rise * g.turns * i) / 500, -1.5 * Math.sin(a)])).toBeLessThan(
      1e-4,
    );
  });
  const spiral = curve({ shape: 'spiral', inner: 0.5, outer: 3, turns: 4 });
  for (const p of at(spiral)) {
    const r = Math.hypot(p[0], p[2]);
    const turn = ((r - 0.5) / 2.5) * 4;
    const off = Math.atan2(-p[2], p[0]) / (2 * Math.PI) - turn;
    expect(Math.abs(off - Math.round(off))).toBeLessThan(2e-4);
  }
  // Negative turns wind the other way and rise all the same.
  expect(at(curve({ shape: 'helix', ...g, turns: -2 })).at(-1)![1]).toBeCloseTo(0.8, 9);
});

test('a coil stays at its radius from its base, winds as often as asked, and closes around a loop', () => {
  const base = curve({ shape: 'circle', radius: 4 });
  const coil = curve({ shape: 'coil', path: 'x', radius: 0.25, turns: 11.8 }, [base]);
  expect(coil.closed).toBe(true);
  let [winding, off] = [0, 0];
  let last: number | null = null;
  for (const p of at(coil, 4000)) {
    const [r, y] = [Math.hypot(p[0], p[2]) - 4, p[1]];
    off = Math.max(off, Math.abs(Math.hypot(r, y) - 0.25));
    const a = Math.atan2(y, r);
    if (last !== null) winding += Math.atan2(Math.sin(a - last), Math.cos(a - last));
    last = a;
  }
  expect(off).toBeLessThan(1e-4);
  expect(Math.abs(winding) / (2 * Math.PI)).toBeCloseTo(12, 6);
  const straight = compiled(
    points('corner', [
      [0, 0, 0],
      [6, 0, 0],
    ]),
  );
  const open = curve({ shape: 'coil', path: 'x', radius: 1, turns: 2.5 }, [straight]);
  expect(Math.abs(open.length - Math.hypot(6, 2 * Math.PI * 2.5))).toBeLessThan(1e-3);
  const frames = framesAlong(straight, [0], 'bank');
  expect(distance(at(open)[0], [frames.up[0], frames.up[1], frames.up[2]])).toBeLessThan(1e-9);
});

describe('strand', () => {
  test.each([
    [[6, 0, 0], 0.1],
    [[3, 4, -2], 0.01],
    [[1, -7, 1], 0.6],
    [[40, 2, 9], 1e-5],
    [[0.3, 0, 0], 8],
    [[0.01, 5, 0], 0.1],
    [[0.001, -3, 0.001], 0.4],
    [[3, 1, 0], 50],
    [[0.2, -6, 0], 100],
  ] as [Vec3, number][])(
    'to %p with slack %p: the length is the one wanted to 1e-9, and it hangs as a catenary',
    (to, slack) => {
      const path = curve({ shape: 'strand', to, slack });
      const straight = Math.hypot(...to);
      expect(Math.abs(path.length - straight * (1 + slack))).toBeLessThan(1e-9 * straight * (1 + slack));
      const list = at(path);
      expect(distance(list[0], [0, 0, 0])).toBeLessThan(1e-12);
      expect(distance(list[500], to)).toBeLessThan(1e-9);
      // On a catenary the slope's hyperbolic sine grows evenly with the arc length.
      const { tangent } = samplePath(
        path,
        [0.2, 0.4, 0.6, 0.8].map((u) => u * path.length),
      );
      const slope = [0, 1, 2, 3].map(
        (i) => tangent[i * 3 + 1] / Math.hypot(tangent[i * 3], tangent[i * 3 + 2]),
      );
      expect(Math.abs(slope[1] - slope[0] - (slope[2] - slope[1]))).toBeLessThan(
        2e-4 * (1 + Math.abs(slope[0])),
      );
      expect(Math.abs(slope[3] - slope[2] - (slope[2] - slope[1]))).toBeLessThan(
        2e-4 * (1 + Math.abs(slope[0])),
      );
    },
  );

  test('however steep, and however much slack: the length is the one wanted to 1e-9', () => {
    for (const run of [1e-7, 1e-5, 1e-3, 0.1, 1, 10])
      for (const rise of [-9, -0.2, 0, 0.5, 7])
        for (const slack of [1e-4, 0.02, 0.5, 8, 50, 100]) {
          const wanted = Math.hypot(run, rise) * (1 + slack);
          const { length } = curve({ shape: 'strand', to: [run * 0.6, rise, run * 0.8], slack });
          expect(Math.abs(length - wanted)).toBeLessThan(1e-9 * wanted);
        }
  });

  test('no slack is straight; less length than the distance too; by sag it hangs just so deep', () => {
    expect(curve({ shape: 'strand', to: [3, 4, 0], slack: 0 }).length).toBeCloseTo(5, 12);
    expect(curve({ shape: 'strand', to: [3, 4, 0], by: 'length', length: 2 }).length).toBeCloseTo(5, 12);
    const path = curve({ shape: 'strand', to: [8, 3, 0], by: 'sag', sag: 1.2 });
    const deepest = Math.max(...at(path, 5000).map((p) => (3 / 8) * p[0] - p[1]));
    expect(deepest).toBeCloseTo(1.2, 6);
    const c = catenaryOfSag(8, 3, 1.2)!;
    expect(sagOf(c, 8, 3)).toBeCloseTo(1.2, 12);
    // Straight down: a fold.
    expect(curve({ shape: 'strand', to: [0, -2, 0], slack: 0.5 }).length).toBeCloseTo(3, 9);
    expect(catenaryOfLength(3, 4, 5)).toBeNull();
    // Both ends in one place: half of it down, half of it up again.
    for (const [by, values] of [
      ['length', { length: 3 }],
      ['sag', { sag: 1.5 }],
    ] as const) {
      const fold = curve({ shape: 'strand', to: [0, 0, 0], by, ...values });
      expect(fold.length).toBeCloseTo(3, 12);
      expect(Math.min(...at(fold).map((q) => q[1]))).toBeCloseTo(-1.5, 9);
    }
  });
});

test('absurd parameters give too-fine or a curve, never NaN or a freeze', () => {
  const odd: Partial<Generator>[] = [
    { shape: 'helix', turns: 2000, radius: 1 },
    { shape: 'helix', turns: 0, radius: 0 },
    { shape: 'spiral', turns: 0.001 },
    { shape: 'circle', radius: 0 },
    { shape: 'arc', sweepDeg: 0 },
    { shape: 'rectangle', width: 0, depth: 0 },
    { shape: 'strand', to: [0, 0, 0] },
    { shape: 'strand', to: [1e6, 0, 0], slack: 100 },
    { shape: 'polygon', sides: 2000, radius: 1e6, fillet: 1e6 },
  ];
  for (const g of odd) {
    const made = generate(generatorSchema.parse(g));
    if (made === 'too-fine') continue;
    for (const p of made[0].points)
      expect([...p.position, ...p.handleIn, ...p.handleOut].every(Number.isFinite)).toBe(true);
  }
  expect(generate(generatorSchema.parse({ shape: 'helix', turns: 1500 }))).toBe('too-fine');
});
