import type { Vec3 } from '../../math/vec3';

/** The box, in another frame, of a box about a place. @param m rows of the matrix to that frame */
export function turnBox(
  m: Float64Array,
  from: Float64Array,
  o: number,
  about: Vec3,
  to: Float64Array,
  w: number,
): void {
  const x = (from[o] + from[o + 3]) / 2 - about[0];
  const y = (from[o + 1] + from[o + 4]) / 2 - about[1];
  const z = (from[o + 2] + from[o + 5]) / 2 - about[2];
  const hx = (from[o + 3] - from[o]) / 2;
  const hy = (from[o + 4] - from[o + 1]) / 2;
  const hz = (from[o + 5] - from[o + 2]) / 2;
  for (let r = 0; r < 3; r++) {
    const c = m[r * 3] * x + m[r * 3 + 1] * y + m[r * 3 + 2] * z;
    const h = Math.abs(m[r * 3]) * hx + Math.abs(m[r * 3 + 1]) * hy + Math.abs(m[r * 3 + 2]) * hz;
    to[w + r] = c - h;
    to[w + 3 + r] = c + h;
  }
}
