/** What is simulated frame by frame from time 0 on, and kept. */

/** Frames a second. */
export const RATE = 30;

/**
 * The two frames around a time, and how far it is between them, 0–1; those that are not there yet are simulated first.
 * @param count how many there are to be at the most @param advance adds the next one
 * @param progress called with the share done while frames are added
 */
export function framesAround(
  frames: readonly Float32Array[],
  count: number,
  time: number,
  advance: () => void,
  progress?: (done: number) => void,
): [before: Float32Array, after: Float32Array, share: number] {
  const t = Math.min(count - 1, Math.max(0, time * RATE));
  const k = Math.min(count - 2, Math.floor(t));
  const from = frames.length;
  while (frames.length <= k + 1) {
    advance();
    progress?.((frames.length - from) / Math.max(1, k + 2 - from));
  }
  return [frames[k], frames[k + 1], t - k];
}
