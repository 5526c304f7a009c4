/**
 * Writes a, b, c of h = a·x + b·y + c through three corners, x, y and height each, from `o` on.
 * @param w where in `out` they go @returns false where the corners stand on edge; nothing is written then
 */
export function planeOf(t: Float64Array, o: number, out: Float64Array, w: number): boolean {
  const ux = t[o + 3] - t[o];
  const uy = t[o + 4] - t[o + 1];
  const uh = t[o + 5] - t[o + 2];
  const vx = t[o + 6] - t[o];
  const vy = t[o + 7] - t[o + 1];
  const vh = t[o + 8] - t[o + 2];
  const twice = ux * vy - uy * vx;
  if (!(Math.abs(twice) > 1e-9 * (ux * ux + uy * uy + vx * vx + vy * vy))) return false;
  out[w] = (uh * vy - uy * vh) / twice;
  out[w + 1] = (ux * vh - uh * vx) / twice;
  out[w + 2] = t[o + 2] - out[w] * t[o] - out[w + 1] * t[o + 1];
  return true;
}
