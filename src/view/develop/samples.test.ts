import { halton, inBall, inDisc, onDisc, onDome, pixelShift } from './samples';

const many = <T>(n: number, of: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => of(i));
const mean = (list: number[]) => list.reduce((sum, v) => sum + v, 0) / list.length;

test('Halton’s sequence to base 2 and 3, as in the books', () => {
  expect(many(6, (i) => halton(i, 2))).toEqual([1 / 2, 1 / 4, 3 / 4, 1 / 8, 5 / 8, 3 / 8]);
  expect(many(4, (i) => halton(i, 3)).map((v) => v * 9)).toEqual(
    [3, 6, 1, 4].map((v) => expect.closeTo(v, 12)),
  );
});

test('a pixel is covered evenly about its middle', () => {
  const shifts = many(16, pixelShift);
  for (const k of [0, 1]) {
    expect(Math.abs(mean(shifts.map((s) => s[k])))).toBeLessThan(0.05);
    // The variance of what is even over one.
    expect(mean(shifts.map((s) => s[k] ** 2))).toBeCloseTo(1 / 12, 1.5);
  }
});

test('the sun’s directions lie on its disc, evenly: half of them within 1/√2 of its radius', () => {
  const wide = (4 * Math.PI) / 180;
  const towards: [number, number, number] = [1, 2, -0.5];
  const length = Math.hypot(...towards);
  const away = many(256, (i) => inDisc(i, towards, wide)).map((d) => {
    expect(Math.hypot(...d)).toBeCloseTo(1, 12);
    return Math.tan(
      Math.acos(
        Math.min(
          1,
          d.reduce((sum, v, k) => sum + (v * towards[k]) / length, 0),
        ),
      ),
    );
  });
  expect(Math.max(...away)).toBeLessThanOrEqual(Math.tan(wide / 2) + 1e-9);
  const half = away.filter((a) => a < Math.tan(wide / 2) / Math.SQRT2).length;
  expect(Math.abs(half / away.length - 0.5)).toBeLessThan(0.02);
});

test.each([16, 64])('%i directions of the dome against closed forms', (n) => {
  const dome = many(n, (i) => onDome(i, n));
  const falls = (on: number[], seen: (d: number[]) => boolean = () => true) =>
    mean(dome.map((d) => (seen(d) ? Math.max(0, d[0] * on[0] + d[1] * on[1] + d[2] * on[2]) : 0)));
  for (const d of dome) expect(Math.hypot(...d)).toBeCloseTo(1, 12);
  // The mean of a cosine over the half sphere is one half; over a quarter of it, seen by a wall, one quarter.
  expect(falls([0, 1, 0])).toBeCloseTo(0.5, 12);
  expect(Math.abs(falls([1, 0, 0]) / 0.25 - 1)).toBeLessThan(0.1);
  // At the foot of a high wall one half is left, whichever way it stands.
  for (const turn of [0.1, 0.7, 1.3, 2, 2.9]) {
    const seen = (d: number[]) => d[0] * Math.cos(turn) + d[2] * Math.sin(turn) > 0;
    expect(falls([0, 1, 0], seen) / 0.5).toBeCloseTo(0.5, 12);
  }
});

test('places of a ball and of a disc fill them evenly about their middle', () => {
  const [at, radius]: [[number, number, number], number] = [[3, -1, 2], 0.5];
  const ball = many(512, (i) => inBall(i, at, radius).map((v, k) => v - at[k]));
  const disc = many(512, (i) => onDisc(i, at, [1, 2, 2], radius).map((v, k) => v - at[k]));
  for (const [places, share] of [
    // Of a ball the inner half of the radius holds an eighth, of a disc a quarter.
    [ball, 1 / 8],
    [disc, 1 / 4],
  ] as const) {
    for (const k of [0, 1, 2]) expect(Math.abs(mean(places.map((p) => p[k])))).toBeLessThan(0.02);
    const away = places.map((p) => Math.hypot(...p));
    expect(Math.max(...away)).toBeLessThanOrEqual(radius);
    expect(away.filter((d) => d < radius / 2).length / 512).toBeCloseTo(share, 1.5);
  }
  for (const [x, y, z] of disc) expect(Math.abs(x + 2 * y + 2 * z)).toBeLessThan(1e-12);
  expect(inBall(7, at, 0)).toEqual(at);
});
