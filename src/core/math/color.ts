import { pow } from './portable';

/** A channel, 0–1, of a colour as it is shown, as light. */
export const linearChannel = (c: number): number =>
  c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4);

/** A channel of light, 0–1 (more is held), as it is shown: what {@link linearChannel} takes back. */
export function shownChannel(c: number): number {
  const v = Math.min(1, Math.max(0, c));
  return v <= 0.0031308 ? 12.92 * v : 1.055 * pow(v, 1 / 2.4) - 0.055;
}

/** Bytes as they are shown, as light: what pictures of many pixels are read by. */
export const LIGHT = Float32Array.from({ length: 256 }, (_, v) => linearChannel(v / 255));

/** Of light from 0 to 1, in so many steps. */
const STEPS = 4096;
const SHOWN = Float32Array.from({ length: STEPS + 1 }, (_, i) => shownChannel(i / STEPS));
/** Darker light changes faster than the steps are fine. */
const DARK = 0.02;

/** The byte as which light is shown: {@link shownChannel} for pictures of many pixels, between two steps of a table. */
export function shownByte(light: number): number {
  if (!(light > DARK)) return Math.round(255 * shownChannel(light));
  const x = Math.min(1, light) * STEPS;
  const i = Math.min(STEPS - 1, Math.floor(x));
  return Math.round(255 * (SHOWN[i] + (SHOWN[i + 1] - SHOWN[i]) * (x - i)));
}

/** Linear red, green, blue, 0–1, of "#rrggbb" (the sRGB transfer curve of IEC 61966-2-1). */
export const linearColor = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => linearChannel(parseInt(hex.slice(i, i + 2), 16) / 255)) as [number, number, number];
