import { lightOf, EXPOSURE } from './tones';

/** The Khronos group's neutral mapping as its paper gives it, for linear colours. */
function neutral(color: number[]): number[] {
  const [start, bleach] = [0.8 - 0.04, 0.15];
  const x = Math.min(...color);
  const offset = x < 0.08 ? x - 6.25 * x * x : 0.04;
  const out = color.map((c) => c - offset);
  const peak = Math.max(...out);
  if (peak < start) return out;
  const d = 1 - start;
  const next = 1 - (d * d) / (peak + d - start);
  const g = 1 - 1 / (bleach * (peak - next) + 1);
  return out.map((c) => (c * next) / peak).map((c) => c * (1 - g) + next * g);
}
const shown = (v: number) => Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055));

test.each(['#cfdfe4', '#f4eee2', '#22344a', '#3a4352', '#dfa585', '#101010', '#08182c'])(
  '%s comes out on the screen as itself',
  (hex) => {
    const out = neutral(
      lightOf(hex)
        .toArray()
        .map((v) => v * EXPOSURE),
    ).map(shown);
    const wanted = [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
    expect(Math.max(...out.map((v, k) => Math.abs(v - wanted[k])))).toBeLessThanOrEqual(2);
  },
);
