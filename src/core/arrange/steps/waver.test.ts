import fc from 'fast-check';
import { newEntry, newRun } from '../../scene/defaults';
import { asResult, compiled, points } from '../../testing/paths';
import { quatRotate, type Quat } from '../../math/quat';
import { evaluateRun } from '../run/evaluate';
import type { Placements } from '../result';

const line = compiled(
  points('corner', [
    [0, 0, 0],
    [40, 0, 0],
  ]),
);
const ring = compiled(
  Array.from({ length: 24 }, (_, k): [number, number, number] => [
    9 * Math.cos((k * Math.PI) / 12),
    0,
    9 * Math.sin((k * Math.PI) / 12),
  ]).map((p) => points('smooth', [p])[0]),
  true,
);

function run(change: (r: ReturnType<typeof newRun>) => void, path = line): Placements {
  const r = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'box' })]);
  r.spacing = { ...r.spacing, mode: 'count', count: 161 };
  change(r);
  const bounds = {
    min: [-0.1, 0, -0.1] as [number, number, number],
    max: [0.1, 0.2, 0.1] as [number, number, number],
  };
  return evaluateRun(r, { path: () => asResult(path), prop: () => ({ state: 'ready', bounds }) }).placements;
}
const wavers =
  (values: object, more: (r: ReturnType<typeof newRun>) => void = () => {}) =>
  (r: ReturnType<typeof newRun>) => {
    Object.assign(r.variation, values);
    more(r);
  };
const axis = (p: Placements, a: number) => Array.from({ length: p.count }, (_, i) => p.position[i * 3 + a]);

test('sideways, up and in turn it swings within its strength, smoothly, and reaches far out', () => {
  const p = run(wavers({ waverSide: 0.3, waverLift: 0.2, waverTurnDeg: 25, waverLength: 1.5 }));
  const turns = Array.from({ length: p.count }, (_, i) => {
    const [x, , z] = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 0, 1]);
    return (Math.atan2(-z, x) * 180) / Math.PI;
  });
  for (const [values, most] of [
    [axis(p, 2), 0.3],
    [axis(p, 1), 0.2],
    [turns, 25],
  ] as const) {
    const far = Math.max(...values.map(Math.abs));
    expect(far).toBeLessThanOrEqual(most + 1e-9);
    expect(far).toBeGreaterThan(most * 0.6);
    // No step is steeper than a fade between the extremes: 15/8 of their distance over a cell.
    for (let i = 1; i < values.length; i++)
      expect(Math.abs(values[i] - values[i - 1])).toBeLessThan(((15 / 8) * 2 * most * 0.25) / 1.5);
  }
});

test('the waver is the path’s: twice as many stand on the same line; another seed has another', () => {
  const some = run(wavers({ waverSide: 0.3 }));
  const more = run(wavers({ waverSide: 0.3 }, (r) => (r.spacing.count = 321)));
  for (let i = 0; i < some.count; i++)
    expect(more.position[i * 6 + 2]).toBeCloseTo(some.position[i * 3 + 2], 12);
  const other = run(wavers({ waverSide: 0.3 }, (r) => (r.seed = 2)));
  expect(axis(other, 2).some((z, i) => Math.abs(z - some.position[i * 3 + 2]) > 0.1)).toBe(true);
});

test('rows together keep their exact distance, each by itself they do not; no other value changes', () => {
  const rows = (waverRows: string, values = {}) =>
    run(
      wavers({ waverSide: 0.3, waverRows, side: [-0.1, 0.1], ...values }, (r) => {
        r.spacing.rows = { ...r.spacing.rows, count: 2, distance: 0.5 };
      }),
    );
  const gaps = (p: Placements) => {
    const still = rows('together', { waverSide: 0 });
    const z = axis(p, 2).map((v, i) => v - still.position[i * 3 + 2]);
    return Array.from({ length: p.count / 2 }, (_, i) => z[i + p.count / 2] - z[i]);
  };
  for (const d of gaps(rows('together'))) expect(d).toBeCloseTo(0, 12);
  expect(Math.max(...gaps(rows('each')).map(Math.abs))).toBeGreaterThan(0.2);
});

test('round a closed path it ends as it began, whatever its length', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.3, max: 40, noNaN: true }),
      fc.integer({ min: 1, max: 50 }),
      (length, seed) => {
        const p = run(
          wavers({ waverSide: 0.5, waverLength: length }, (r) => {
            r.seed = seed;
            r.spacing.count = 4000;
          }),
          ring,
        );
        const out = Array.from({ length: p.count }, (_, i) =>
          Math.hypot(p.position[i * 3], p.position[i * 3 + 2]),
        );
        const step = Math.abs(out[0] - out[out.length - 1]);
        expect(step).toBeLessThan(
          (((15 / 8) * 2 * 0.5 * (ring.length / 4000)) / Math.min(length, ring.length)) * 2 + 1e-4,
        );
      },
    ),
    { numRuns: 20 },
  );
});
