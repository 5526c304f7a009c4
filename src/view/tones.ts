import { Color } from 'three';

/** How bright colours come onto the screen: dyes keep theirs; only what is very bright is taken back. */

export const EXPOSURE = 1.25;

/** Of neutral tones (Khronos PBR neutral): what is taken off as haze, and from where on they are taken back. */
const HAZE = 0.04;
const BACK = 0.8 - HAZE;

/**
 * The light, linear, that comes out on the screen as a colour: neutral tones the other way round, but for the little
 * that they bleach what is brightest.
 */
export function lightOf(shown: string): Color {
  const out = new Color(shown);
  const peak = Math.max(out.r, out.g, out.b);
  if (peak > BACK) {
    const room = 1 - BACK;
    const before = (room * room) / Math.max(1e-3, 1 - peak) - room + BACK;
    out.multiplyScalar(before / peak);
  }
  // Above 0.08 the haze is the same for all; below it is 6.25 x² of the darkest channel.
  const darkest = Math.min(out.r, out.g, out.b);
  const haze = darkest >= HAZE ? HAZE : Math.sqrt(darkest / 6.25) - darkest;
  return out.addScalar(haze).multiplyScalar(1 / EXPOSURE);
}
