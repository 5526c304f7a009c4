import { lightOf } from '../tones';
import { toneNeutral } from './tone';

const shown = (rgb: readonly number[], exposure = 1): number[] => {
  const out = Float64Array.from(rgb);
  toneNeutral(out, exposure);
  return [...out];
};

test('greys by the published curve: below the haze, in the middle, and where they are taken back', () => {
  const linear = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
  // 6.25 x² of what is dark; 0.04 less in the middle; at 2: 1 − 0.24² / (1.96 + 0.24 − 0.76).
  for (const [light, out] of [
    [0, 0],
    [0.04, 6.25 * 0.04 ** 2],
    [0.5, 0.46],
    [2, 1 - 0.24 ** 2 / (1.96 + 0.24 - 0.76)],
  ])
    for (const channel of shown([light, light, light])) expect(linear(channel)).toBeCloseTo(out, 9);
  expect(shown([0.25, 0.25, 0.25], 2)).toEqual(shown([0.5, 0.5, 0.5]));
});

test('the other way round than the light that a shown colour stands for', () => {
  for (const hex of ['#b4472f', '#2c5f86', '#61793f', '#7a4a6b']) {
    const { r, g, b } = lightOf(hex);
    // That one is told for the exposure that the view has.
    const back = shown([r, g, b], 1.25).map((v) => Math.round(v * 255));
    [1, 3, 5].forEach((k, i) =>
      expect(Math.abs(back[i] - parseInt(hex.slice(k, k + 2), 16))).toBeLessThan(2),
    );
  }
});
