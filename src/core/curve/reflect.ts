import { atan2, hypot } from '../math/portable';
import { cross, dot, normalize, rotateAbout, scale, sub, type Vec3 } from '../math/vec3';
import type { Samples } from './sample';

/** Carrying directions along samples with the least rotation. */

/** Row `i` of triples. */
export const read = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/**
 * Carries the direction `r` from (x0, t0) to (x1, t1) with the least rotation: double reflection
 * (Wang, Jüttler, Zheng, Liu: Computation of Rotation Minimizing Frames, ACM TOG 27(1), 2008). Exact for circles,
 * global error of fourth order. Works where the points coincide (a corner) and where the tangent turns back.
 */
export function doubleReflect(x0: Vec3, t0: Vec3, r: Vec3, x1: Vec3, t1: Vec3): Vec3 {
  const v1 = sub(x1, x0);
  const c1 = dot(v1, v1);
  let rl = r;
  let tl = t0;
  if (c1 > 1e-300) {
    rl = sub(r, scale(v1, (2 / c1) * dot(v1, r)));
    tl = sub(t0, scale(v1, (2 / c1) * dot(v1, t0)));
    const v2 = sub(t1, tl);
    const c2 = dot(v2, v2);
    const out = c2 > 1e-300 ? sub(rl, scale(v2, (2 / c2) * dot(v2, rl))) : rl;
    return squareTo(out, t1);
  }
  // No step: the smallest rotation that takes t0 to t1. Straight back: r is kept.
  const axis = cross(t0, t1);
  const s = hypot(axis[0], axis[1], axis[2]);
  if (s < 1e-12) return squareTo(r, t1);
  return squareTo(rotateAbout(r, scale(axis, 1 / s), atan2(s, dot(t0, t1))), t1);
}

/**
 * {@link doubleReflect} on rows of arrays, three numbers each: from row `i` of the first samples with its direction
 * to row `j` of the others, into row `j` of `out`. The plain case without an allocation.
 */
export function reflectRow(
  from: Samples,
  direction: Float64Array,
  i: number,
  to: Samples,
  j: number,
  out: Float64Array,
): void {
  const a = i * 3;
  const b = j * 3;
  const vx = to.position[b] - from.position[a];
  const vy = to.position[b + 1] - from.position[a + 1];
  const vz = to.position[b + 2] - from.position[a + 2];
  const c1 = vx * vx + vy * vy + vz * vz;
  const tx = to.tangent[b];
  const ty = to.tangent[b + 1];
  const tz = to.tangent[b + 2];
  if (c1 > 1e-300) {
    const px = from.tangent[a];
    const py = from.tangent[a + 1];
    const pz = from.tangent[a + 2];
    let rx = direction[a];
    let ry = direction[a + 1];
    let rz = direction[a + 2];
    const kr = (2 / c1) * (vx * rx + vy * ry + vz * rz);
    const kt = (2 / c1) * (vx * px + vy * py + vz * pz);
    rx -= vx * kr;
    ry -= vy * kr;
    rz -= vz * kr;
    const wx = tx - (px - vx * kt);
    const wy = ty - (py - vy * kt);
    const wz = tz - (pz - vz * kt);
    const c2 = wx * wx + wy * wy + wz * wz;
    if (c2 > 1e-300) {
      const k = (2 / c2) * (wx * rx + wy * ry + wz * rz);
      rx -= wx * k;
      ry -= wy * k;
      rz -= wz * k;
    }
    const d = rx * tx + ry * ty + rz * tz;
    rx -= tx * d;
    ry -= ty * d;
    rz -= tz * d;
    const l = Math.sqrt(rx * rx + ry * ry + rz * rz);
    if (l > 1e-9) {
      out[b] = rx / l;
      out[b + 1] = ry / l;
      out[b + 2] = rz / l;
      return;
    }
  }
  out.set(
    doubleReflect(read(from.position, i), read(from.tangent, i), read(direction, i), read(to.position, j), [
      tx,
      ty,
      tz,
    ]),
    b,
  );
}

/** `r` made exactly perpendicular to the unit `t` and of length one. */
export function squareTo(r: Vec3, t: Vec3): Vec3 {
  const d = dot(r, t);
  const out: Vec3 = [r[0] - t[0] * d, r[1] - t[1] * d, r[2] - t[2] * d];
  if (hypot(out[0], out[1], out[2]) > 1e-9) return normalize(out);
  const other: Vec3 = Math.abs(t[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1];
  return normalize(cross(cross(t, other), t));
}

/**
 * Rotation-minimising directions through given samples.
 * @param samples positions and unit tangents, three numbers each @param r0 first direction, perpendicular to t0
 */
export function rotationMinimising(samples: Samples, r0: Vec3): Float64Array {
  const n = samples.position.length / 3;
  const out = new Float64Array(n * 3);
  out.set(r0);
  for (let i = 1; i < n; i++) reflectRow(samples, out, i - 1, samples, i, out);
  return out;
}
