import type { Vec3 } from './vec3';
import { atan2, cos, sin } from './portable';

/** A unit quaternion [x, y, z, w]. */
export type Quat = [number, number, number, number];

export const DEG = Math.PI / 180;

/**
 * Writes the quaternion of the rotation whose columns are the orthonormal axes y × z, y and z to `out` from `o` on,
 * with w ≥ 0. Shepperd's method: the largest component is taken first, so it is stable everywhere.
 */
export function writeQuatFromUpFront(
  out: Float64Array | number[],
  o: number,
  yx: number,
  yy: number,
  yz: number,
  zx: number,
  zy: number,
  zz: number,
): void {
  axes[0] = yx;
  axes[1] = yy;
  axes[2] = yz;
  axes[3] = zx;
  axes[4] = zy;
  axes[5] = zz;
  writeQuatOfAxes(out, o, axes, 0, axes, 3);
}

const axes = new Float64Array(6);

/** {@link writeQuatFromUpFront} of axes that stand in lists, up from `u` on and front from `f` on: for many in a row. */
export function writeQuatOfAxes(
  out: Float64Array | number[],
  o: number,
  up: Float64Array,
  u: number,
  front: Float64Array,
  f: number,
): void {
  const yx = up[u];
  const yy = up[u + 1];
  const yz = up[u + 2];
  const zx = front[f];
  const zy = front[f + 1];
  const zz = front[f + 2];
  const xx = yy * zz - yz * zy;
  const xy = yz * zx - yx * zz;
  const xz = yx * zy - yy * zx;
  const trace = xx + yy + zz;
  let x: number;
  let y: number;
  let z: number;
  let w: number;
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2;
    x = (yz - zy) / s;
    y = (zx - xz) / s;
    z = (xy - yx) / s;
    w = s / 4;
  } else if (xx > yy && xx > zz) {
    const s = Math.sqrt(1 + xx - yy - zz) * 2;
    x = s / 4;
    y = (yx + xy) / s;
    z = (zx + xz) / s;
    w = (yz - zy) / s;
  } else if (yy > zz) {
    const s = Math.sqrt(1 + yy - xx - zz) * 2;
    x = (yx + xy) / s;
    y = s / 4;
    z = (zy + yz) / s;
    w = (zx - xz) / s;
  } else {
    const s = Math.sqrt(1 + zz - xx - yy) * 2;
    x = (zx + xz) / s;
    y = (zy + yz) / s;
    z = s / 4;
    w = (xy - yx) / s;
  }
  const k = w < 0 ? -1 : 1;
  out[o] = k * x;
  out[o + 1] = k * y;
  out[o + 2] = k * z;
  out[o + 3] = k * w;
}

/** The rotation that takes Y to the unit `up` and Z to the unit `front`, which is square to it. */
export function quatFromUpFront(up: Vec3, front: Vec3): Quat {
  const q: Quat = [0, 0, 0, 1];
  writeQuatFromUpFront(q, 0, ...up, ...front);
  return q;
}

/** The shortest turn that brings one direction of unit length onto another. */
export function quatBetween(from: Vec3, to: Vec3): Quat {
  const w = 1 + from[0] * to[0] + from[1] * to[1] + from[2] * to[2];
  const x = from[1] * to[2] - from[2] * to[1];
  const y = from[2] * to[0] - from[0] * to[2];
  const z = from[0] * to[1] - from[1] * to[0];
  const l = Math.sqrt(x * x + y * y + z * z + w * w);
  if (l > 1e-9) return [x / l, y / l, z / l, w / l];
  // Opposite: half a turn about anything square to them.
  const side: Vec3 = Math.abs(from[0]) < 0.9 ? [0, from[2], -from[1]] : [-from[2], 0, from[0]];
  const long = Math.sqrt(side[0] * side[0] + side[1] * side[1] + side[2] * side[2]);
  return [side[0] / long, side[1] / long, side[2] / long, 0];
}

/** The turn back, of a unit quaternion. */
export const quatConjugate = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];

/** The product a·b: first b, then a. */
export function quatMultiply(a: Quat, b: Quat): Quat {
  return [
    a[3] * b[0] + a[0] * b[3] + a[1] * b[2] - a[2] * b[1],
    a[3] * b[1] - a[0] * b[2] + a[1] * b[3] + a[2] * b[0],
    a[3] * b[2] + a[0] * b[1] - a[1] * b[0] + a[2] * b[3],
    a[3] * b[3] - a[0] * b[0] - a[1] * b[1] - a[2] * b[2],
  ];
}

/** Writes a·b, `b` from `i` on; `out` may be `b`. */
export function writeQuatProduct(
  out: Float64Array,
  o: number,
  a: Quat,
  b: ArrayLike<number>,
  i: number,
): void {
  const [x, y, z, w] = [b[i], b[i + 1], b[i + 2], b[i + 3]];
  out[o] = a[3] * x + a[0] * w + a[1] * z - a[2] * y;
  out[o + 1] = a[3] * y - a[0] * z + a[1] * w + a[2] * x;
  out[o + 2] = a[3] * z + a[0] * y - a[1] * x + a[2] * w;
  out[o + 3] = a[3] * w - a[0] * x - a[1] * y - a[2] * z;
}

/** Rotation by turn about Y, then tip about the turned X, then roll about the tipped Z; radians. */
export function quatTurnTipRoll(turn: number, tip: number, roll: number): Quat {
  const cy = cos(turn / 2);
  const sy = sin(turn / 2);
  const cx = cos(tip / 2);
  const sx = sin(tip / 2);
  const cz = cos(roll / 2);
  const sz = sin(roll / 2);
  return [
    cy * sx * cz + sy * cx * sz,
    sy * cx * cz - cy * sx * sz,
    cy * cx * sz - sy * sx * cz,
    cy * cx * cz + sy * sx * sz,
  ];
}

/** The turn, tip (within ±90°) and roll of {@link quatTurnTipRoll} that make a unit quaternion; radians. */
export function turnTipRollOf(q: Quat): [turn: number, tip: number, roll: number] {
  const [x, y, z] = quatRotate(q, [0, 0, 1]);
  const tip = atan2(-y, Math.sqrt(x * x + z * z));
  const turn = x * x + z * z > 1e-20 ? atan2(x, z) : 0;
  const back = quatTurnTipRoll(turn, tip, 0);
  const rest = quatMultiply([-back[0], -back[1], -back[2], back[3]], q);
  return [turn, tip, 2 * atan2(rest[2], rest[3])];
}

/** `v` rotated by the unit quaternion `q`. */
export function quatRotate(q: Quat, v: Vec3): Vec3 {
  const [x, y, z, w] = q;
  const tx = 2 * (y * v[2] - z * v[1]);
  const ty = 2 * (z * v[0] - x * v[2]);
  const tz = 2 * (x * v[1] - y * v[0]);
  return [v[0] + w * tx + y * tz - z * ty, v[1] + w * ty + z * tx - x * tz, v[2] + w * tz + x * ty - y * tx];
}

/**
 * Writes a rotation that was given to `out` from `o` on, brought to unit length; one that has none is no rotation. What
 * is of unit length already keeps its bits.
 */
export function writeUnitQuat(out: Float64Array, o: number, [x, y, z, w]: readonly number[]): void {
  const most = Math.max(Math.abs(x), Math.abs(y), Math.abs(z), Math.abs(w));
  if (!(most > 0)) {
    out[o] = out[o + 1] = out[o + 2] = 0;
    out[o + 3] = 1;
    return;
  }
  const square = x * x + y * y + z * z + w * w;
  if (Math.abs(square - 1) < 1e-12) {
    out[o] = x;
    out[o + 1] = y;
    out[o + 2] = z;
    out[o + 3] = w;
    return;
  }
  // The largest part first: squares of what is tiny or huge say nothing.
  const [a, b, c, d] = [x / most, y / most, z / most, w / most];
  const l = Math.sqrt(a * a + b * b + c * c + d * d);
  out[o] = a / l;
  out[o + 1] = b / l;
  out[o + 2] = c / l;
  out[o + 3] = d / l;
}
