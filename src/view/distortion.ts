/** Colours of distortion: woad where a place becomes smaller, weld and madder where it becomes larger. */

type Rgb = [number, number, number];
const SMALL: Rgb = [122, 166, 196];
const SAME: Rgb = [238, 230, 214];
const LARGE: Rgb = [219, 131, 92];
const ASKEW: Rgb = [150, 106, 142];

const mix = (a: Rgb, b: Rgb, t: number): Rgb => a.map((v, i) => v + (b[i] - v) * t) as Rgb;

/** @param area how much larger it becomes @param angle degrees that its corners are off */
export function distortionRgb(area: number, angle: number): Rgb {
  const t = area > 0 ? Math.max(-1, Math.min(1, Math.log2(area))) : -1;
  const by = t < 0 ? mix(SAME, SMALL, -t) : mix(SAME, LARGE, t);
  return mix(by, ASKEW, Math.min(1, Math.max(0, angle / 45)));
}

export const distortionColor = (area: number, angle: number): string =>
  `rgb(${distortionRgb(area, angle).map(Math.round).join(' ')})`;
