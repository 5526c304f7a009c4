/** Where two stretches of a tube are nearest to each other. */

/** Shares of both stretches where they are nearest, and the way from the second to the first. */
export interface Near {
  s: number;
  t: number;
  x: number;
  y: number;
  z: number;
  distance: number;
}

const within = (v: number): number => Math.min(1, Math.max(0, v));

/**
 * The nearest places of the stretches from particle a to b and from c to d (Ericson, Real-Time Collision Detection, 5.1.9).
 * @param p xyz a particle
 */
export function nearestOf(p: Float64Array, a: number, b: number, c: number, d: number, out: Near): void {
  const [i, j, k, l] = [a * 3, b * 3, c * 3, d * 3];
  const [ux, uy, uz] = [p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]];
  const [vx, vy, vz] = [p[l] - p[k], p[l + 1] - p[k + 1], p[l + 2] - p[k + 2]];
  const [rx, ry, rz] = [p[i] - p[k], p[i + 1] - p[k + 1], p[i + 2] - p[k + 2]];
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const vr = vx * rx + vy * ry + vz * rz;
  const ur = ux * rx + uy * ry + uz * rz;
  const uv = ux * vx + uy * vy + uz * vz;
  const whole = uu * vv - uv * uv;
  let s = whole > 1e-12 * uu * vv ? within((uv * vr - ur * vv) / whole) : 0.5;
  let t = vv > 0 ? (uv * s + vr) / vv : 0;
  if (t < 0 || t > 1) {
    t = within(t);
    s = uu > 0 ? within((uv * t - ur) / uu) : 0;
  }
  out.s = s;
  out.t = t;
  out.x = rx + ux * s - vx * t;
  out.y = ry + uy * s - vy * t;
  out.z = rz + uz * s - vz * t;
  out.distance = Math.sqrt(out.x * out.x + out.y * out.y + out.z * out.z);
}
