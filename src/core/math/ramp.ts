/** A curve through points, straight from one to the next, level before the first and after the last. */
export type RampPoints = readonly (readonly [at: number, value: number])[];

/**
 * Its value at `u`; `fallback` where it has no points. Of two points in one place the later one holds from there on.
 *
 * @example
 * rampAt([[0, 1], [1, 3]], 0.5, 0); // 2
 */
export function rampAt(ramp: RampPoints, u: number, fallback: number): number {
  if (ramp.length === 0) return fallback;
  if (u <= ramp[0][0]) return ramp[0][1];
  for (let i = 1; i < ramp.length; i++) {
    const [a, va] = ramp[i - 1];
    const [b, vb] = ramp[i];
    if (u <= b) return b > a ? va + ((vb - va) * (u - a)) / (b - a) : vb;
  }
  return ramp[ramp.length - 1][1];
}
