import { addHalo, haloShares, spreads } from './halo';
import { metered } from './metered';

/** A dark picture with a bright pixel. */
function withSpark(width: number, height: number, x: number, y: number, light: number): Float32Array {
  const rgba = new Float32Array(width * height * 4).fill(0);
  for (let i = 3; i < rgba.length; i += 4) rgba[i] = 1;
  rgba.fill(light, (y * width + x) * 4, (y * width + x) * 4 + 3);
  return rgba;
}

const sum = (rgba: Float32Array) => rgba.reduce((s, v, i) => s + (i % 4 === 0 ? v : 0), 0);

test('what is not brighter than white has no halo', () => {
  const rgba = withSpark(64, 64, 20, 30, 0.79);
  const before = rgba.slice();
  addHalo(rgba, 64, 64, 1.25, 2, 0.5);
  expect(rgba).toEqual(before);
});

test('all that spreads arrives: the sum of a halo is what was brighter than white, times what was asked', () => {
  for (const reach of [0, 0.4]) {
    const rgba = withSpark(256, 256, 128, 128, 41);
    addHalo(rgba, 256, 256, 1, 0.5, reach);
    expect(sum(rgba) - 41).toBeCloseTo(0.5 * 40, 0);
  }
  expect(spreads(41, 2) * 2).toBeCloseTo(81, 12);
});

test('it falls off with distance, alike to all sides, and a wide one reaches farther', () => {
  const at = (rgba: Float32Array, x: number, y: number) => rgba[(y * 256 + x) * 4];
  const [close, wide] = [0.1, 0.9].map((reach) => {
    const rgba = withSpark(256, 256, 128, 128, 1000);
    addHalo(rgba, 256, 256, 1, 1, reach);
    return rgba;
  });
  for (const rgba of [close, wide])
    for (const d of [6, 12, 24]) {
      expect(at(rgba, 128 + d, 128)).toBeGreaterThan(at(rgba, 128 + 2 * d, 128));
      const across = [at(rgba, 128 - d, 128), at(rgba, 128, 128 + d), at(rgba, 128, 128 - d)];
      for (const v of across) expect(v / at(rgba, 128 + d, 128)).toBeCloseTo(1, 0);
    }
  expect(at(wide, 188, 128)).toBeGreaterThan(4 * at(close, 188, 128));
  expect(at(close, 131, 128)).toBeGreaterThan(4 * at(wide, 131, 128));
  for (const reach of [0, 0.3, 1]) expect(haloShares(reach).reduce((a, b) => a + b)).toBeCloseTo(1, 12);
});

test('about a light in the middle it is alike to all sides, whatever the size of the picture is made of', () => {
  const side = 527;
  const middle = (side - 1) / 2;
  const rgba = withSpark(side, side, middle, middle, 5000);
  addHalo(rgba, side, side, 1, 1, 0.8);
  const at = (x: number, y: number) => rgba[(y * side + x) * 4];
  for (const d of [20, 45, 110]) {
    const [right, ...others] = [
      at(middle + d, middle),
      at(middle - d, middle),
      at(middle, middle + d),
      at(middle, middle - d),
    ];
    for (const v of others) expect(Math.abs(v / right - 1)).toBeLessThan(0.08);
  }
});

test('odd sizes and single rows have one too, and no number that is none', () => {
  for (const [w, h] of [
    [7, 5],
    [1, 1],
    [33, 1],
  ]) {
    const rgba = withSpark(w, h, 0, 0, 9);
    addHalo(rgba, w, h, 1, 1, 0.5);
    expect(rgba.every(Number.isFinite)).toBe(true);
    expect(sum(rgba)).toBeGreaterThan(9);
  }
});

test('a meter brings any grey to the same middle, by stops, whatever shows nothing beside it', () => {
  const grey = (v: number) => Array.from({ length: 40 }, (_, i) => (i % 4 === 3 ? 1 : v));
  expect(metered(grey(0.18)) * 0.18).toBeCloseTo(metered(grey(1.8)) * 1.8, 9);
  expect(metered([...grey(0.2), 0, 0, 0, 0])).toBeCloseTo(metered(grey(0.2)), 12);
  // Half a stop up for one pixel of two, a whole stop down for the other.
  expect(metered([...grey(0.1), ...grey(0.4)])).toBeCloseTo(metered(grey(0.2)), 9);
  expect(metered([])).toBe(1);
  expect(metered(grey(0))).toBe(64);
  expect(metered(grey(Infinity))).toBe(1);
});
