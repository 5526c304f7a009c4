import { exp, log } from '../math/portable';

/** An exposure that is found by measuring a picture, as a camera's meter does. */

/** What the middle brightness of a picture comes to. */
const MIDDLE = 0.36;
/** No picture is made so many times brighter or darker. */
const MOST = 64;
/** Darker than this is as dark as this: black corners do not blow out the rest. */
const DARKEST = 1e-3;

/**
 * So many times brighter a picture is to be shown: the mean of its brightness, taken by its logarithm, comes to a middle grey.
 * @param rgba linear, alpha multiplied in; what shows nothing does not count
 * @returns 1 for a picture that shows nothing
 */
export function metered(rgba: ArrayLike<number>): number {
  let [logs, weight] = [0, 0];
  for (let i = 0; i < rgba.length; i += 4) {
    const alpha = rgba[i + 3];
    if (!(alpha > 0.01)) continue;
    const bright = (0.2126 * rgba[i] + 0.7152 * rgba[i + 1] + 0.0722 * rgba[i + 2]) / alpha;
    if (!Number.isFinite(bright)) continue;
    logs += alpha * log(Math.max(DARKEST, bright));
    weight += alpha;
  }
  if (weight === 0) return 1;
  return Math.max(1 / MOST, Math.min(MOST, MIDDLE / exp(logs / weight)));
}
