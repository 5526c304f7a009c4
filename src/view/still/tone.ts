/** The screen's colours of a picture's light: the Khronos group's neutral tone mapping, then sRGB. */

const START = 0.8 - 0.04;
const DESATURATION = 0.15;

const toScreen = (c: number): number => (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055);

/**
 * Maps one pixel of light onto the screen, in place.
 * @param rgb linear, 0 and more; becomes 0–1 as it is shown
 */
export function toneNeutral(rgb: Float64Array, exposure: number): void {
  for (let k = 0; k < 3; k++) rgb[k] *= exposure;
  const x = Math.min(rgb[0], rgb[1], rgb[2]);
  const offset = x < 0.08 ? x - 6.25 * x * x : 0.04;
  for (let k = 0; k < 3; k++) rgb[k] -= offset;
  const peak = Math.max(rgb[0], rgb[1], rgb[2]);
  if (peak >= START) {
    const d = 1 - START;
    const newPeak = 1 - (d * d) / (peak + d - START);
    const g = 1 - 1 / (DESATURATION * (peak - newPeak) + 1);
    for (let k = 0; k < 3; k++) rgb[k] = ((rgb[k] * newPeak) / peak) * (1 - g) + newPeak * g;
  }
  for (let k = 0; k < 3; k++) rgb[k] = toScreen(Math.min(1, Math.max(0, rgb[k])));
}
