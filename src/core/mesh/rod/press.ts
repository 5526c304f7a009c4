/** How what lies on something is pressed. */

/** What lies in something at the beginning is parted by so much of its radius a step, no faster. */
const GENTLY = 0.03;
/** No section gets flatter than this share of its radius. */
export const FLATTEST = 0.25;

/**
 * How far what lies too near by `short` is pushed in a step of h seconds: it gives by its weight, but never gets flatter
 * than {@link FLATTEST} of the distance that it keeps, and what lies in it is parted no faster than {@link GENTLY}.
 * @param w inverse mass @param gives metres a newton @param came how far it has come nearer in this step
 */
export function pushBy(
  short: number,
  distance: number,
  w: number,
  gives: number,
  h: number,
  came: number,
): number {
  const softly = w > 0 ? (short * w) / (w + gives / (h * h)) : 0;
  return Math.min(came + GENTLY * distance, Math.max(softly, short - (1 - FLATTEST) * distance));
}
