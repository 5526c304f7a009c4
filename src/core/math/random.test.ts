import { channel, random01 } from './random';
import { slotId } from '../arrange/slotId';
import { PROVING } from '../testing/prove';

/** At full size the values that the chi-square is held against are a million. */
const N = PROVING ? 1_000_000 : 20_000;
const draw = (seed: number, key: number) =>
  Float64Array.from({ length: N }, (_, i) => random01(seed, slotId(i + 1), key));

/** Pearson's correlation. */
function correlation(a: Float64Array, b: Float64Array): number {
  const mean = (v: Float64Array) => v.reduce((x, y) => x + y, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    ab += (a[i] - ma) * (b[i] - mb);
    aa += (a[i] - ma) ** 2;
    bb += (b[i] - mb) ** 2;
  }
  return ab / Math.sqrt(aa * bb);
}

describe('hash random', () => {
  test.each([0, 1, 7, 123456, -5])('seed %d is even over [0, 1): chi-square over 100 bins', (seed) => {
    const bins = new Float64Array(100);
    const values = draw(seed, channel('test'));
    expect(values.every((u) => u >= 0 && u < 1)).toBe(true);
    for (const u of values) bins[Math.floor(u * 100)]++;
    const chi2 = bins.reduce((sum, n) => sum + (n - N / 100) ** 2 / (N / 100), 0);
    // 99 degrees of freedom: 148.2 is passed by 99.9 % of even draws.
    expect(chi2).toBeLessThan(148.2);
  });

  test('neighbouring slots, seeds and channels do not follow each other', () => {
    const a = draw(3, channel('turn'));
    expect(Math.abs(correlation(a.subarray(1), a.subarray(0, N - 1)))).toBeLessThan(0.025);
    expect(Math.abs(correlation(a, draw(4, channel('turn'))))).toBeLessThan(0.025);
    expect(Math.abs(correlation(a, draw(3, channel('tip'))))).toBeLessThan(0.025);
  });

  test('a slot’s value depends on nothing but seed, slot and channel', () => {
    expect(random01(9, slotId(5, 1, 2), channel('x'))).toBe(random01(9, slotId(5, 1, 2), channel('x')));
    const all = new Set(
      [slotId(5), slotId(5, 1), slotId(5, 0, 1), slotId(6)].map((id) => random01(9, id, channel('x'))),
    );
    expect(all.size).toBe(4);
  });
});
