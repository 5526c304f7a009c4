import fc from 'fast-check';
import { cases, SEED } from '../../testing/prove';
import { compileStrokes } from '../compile';
import { samplePath } from '../sample';
import { hungBetween } from './hang';
import { lyingOver } from './lying';
import { hangSchema } from './schema';

/** Lines on the ground against closed forms: a chain on a level floor, a string over a wheel; and never below it. */

const profile = (h: number, y: (x: number) => number, n = 256) =>
  Float64Array.from({ length: (n + 1) * 2 }, (_, i) => (i % 2 ? y((h * (i - 1)) / 2 / n) : (h * i) / 2 / n));
const sumOf = (pieces: { to: [number, number]; length: number }[]) =>
  pieces.reduce((sum, p) => sum + p.length, 0);

test('a chain on a level floor leaves it where the closed form says, as long as it is asked for', () => {
  for (const [h, height, wanted] of [
    [10, 1, 10.4],
    [6, 2, 8],
    [20, 0.5, 20.05],
  ]) {
    const made = lyingOver(
      h,
      0,
      profile(h, () => -height, 2000),
      wanted,
    )!;
    expect(Math.abs(sumOf(made.pieces) / wanted - 1)).toBeLessThan(1e-9);
    // Half a catenary from its lowest place up to the end, twice, and the floor between.
    const lift = (a: number) => a * Math.acosh(1 + height / a);
    const long = (a: number) => 2 * a * Math.sinh(lift(a) / a) + h - 2 * lift(a);
    let [low, high] = [1e-3, 1e4];
    for (let i = 0; i < 200; i++) {
      const mid = Math.sqrt(low * high);
      if (long(mid) > wanted) low = mid;
      else high = mid;
    }
    expect(2 * lift(low)).toBeLessThan(h);
    expect(Math.abs(made.pieces[0].to[0] - lift(low))).toBeLessThan((2 * h) / 2000);
    expect(made.pieces[0].straight).toBe(false);
    expect(made.pieces.at(-1)!.to).toEqual([h, 0]);
  }
});

test('a string over a wheel goes by its tangents and its rim; a line that clears the ground is none of this', () => {
  // A wheel of radius 1, 4 m on, its axle level with both ends: touched at 60° to both sides … by arccos(1/4).
  const wheel = (x: number) => (Math.abs(x - 4) < 1 ? Math.sqrt(1 - (x - 4) ** 2) : -Infinity);
  const taut = lyingOver(8, 0, profile(8, wheel, 8000), null)!;
  const tangent = Math.sqrt(16 - 1);
  const arc = Math.PI - 2 * Math.acos(1 / 4);
  expect(Math.abs(sumOf(taut.pieces) - (2 * tangent + arc))).toBeLessThan(1e-4);
  expect(taut).toMatchObject({ over: 0, short: false });
  const short = lyingOver(8, 0, profile(8, wheel, 8000), 8.2)!;
  expect(short.short).toBe(true);
  expect(sumOf(short.pieces)).toBeCloseTo(sumOf(taut.pieces), 12);
  expect(
    lyingOver(
      8,
      0,
      profile(8, () => -5),
      8.4,
    ),
  ).toBeNull();
  expect(
    lyingOver(
      8,
      0,
      profile(8, () => -Infinity),
      20,
    ),
  ).toBeNull();
});

test('longer than the ground itself it lies all along it, and how much is left over is told', () => {
  const made = lyingOver(
    5,
    0,
    profile(5, () => 0),
    9,
  )!;
  expect(sumOf(made.pieces)).toBeCloseTo(5, 9);
  expect(made.over).toBeCloseTo(4, 9);
});

test('over random hills it is as long as asked, nowhere below them, and turns only down where they hold it', () => {
  const lie = hangSchema.parse({ how: 'sag', by: 'length', lies: {} });
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -2, max: 1.5, noNaN: true }), { minLength: 4, maxLength: 9 }),
      fc.double({ min: 1.05, max: 2.5, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      (heights, longer, v) => {
        const h = 7;
        const hill = (x: number) => {
          const t = (x / h) * (heights.length - 1);
          const i = Math.min(heights.length - 2, Math.floor(t));
          const s = (1 - Math.cos(Math.PI * (t - i))) / 2;
          // Both ends stand on posts of two metres.
          const edge = Math.min(1, x / 0.7, (h - x) / 0.7);
          return -2.5 + (2.5 + heights[i] * (1 - s) + heights[i + 1] * s) * Math.max(0, edge);
        };
        const ground = profile(h, hill, 256);
        const taut = lyingOver(h, v, ground, null);
        const least = taut ? sumOf(taut.pieces) : Math.hypot(h, v);
        const wanted = least * longer;
        const hung = hungBetween({ from: [0, 0, 0], to: [h, v, 0], ground }, { ...lie, length: wanted });
        const compiled = compileStrokes([{ points: hung.points, closed: false, firstPoint: 0 }]);
        if (!compiled.ok) throw new Error('It did not compile.');
        const { length } = compiled.path;
        if (hung.over === undefined) expect(Math.abs(length / wanted - 1)).toBeLessThan(2e-9);
        else expect(Math.abs((length + hung.over) / wanted - 1)).toBeLessThan(2e-9);
        const { position } = samplePath(
          compiled.path,
          Float64Array.from({ length: 400 }, (_, i) => (length * i) / 399),
        );
        for (let i = 0; i < 400; i++) {
          const [x, y] = [position[i * 3], position[i * 3 + 1]];
          if (x > 0.01 && x < h - 0.01) {
            const k = Math.floor((x / h) * 256);
            const f = (x / h) * 256 - k;
            const [p, q] = [ground[k * 2 + 1], ground[k * 2 + 3]];
            // Square to the slope: between two places a catenary of the loosest pull falls no deeper.
            const square = Math.hypot(1, ((q - p) * 256) / h);
            expect((y - (p * (1 - f) + q * f)) / square).toBeGreaterThan(-1e-4 * h);
          }
        }
      },
    ),
    { seed: SEED, numRuns: cases(1000) },
  );
});
