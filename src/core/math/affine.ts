import type { Quat } from './quat';

/** Column-major 4×4 maps that turn, size by axis and move. */

/** Writes the map of a position, a unit quaternion and factors by axis. */
export function writeAffine(
  out: Float64Array,
  o: number,
  p: ArrayLike<number>,
  i: number,
  q: ArrayLike<number>,
  j: number,
  s: ArrayLike<number>,
  k: number,
): void {
  const [x, y, z, w] = [q[j], q[j + 1], q[j + 2], q[j + 3]];
  const [sx, sy, sz] = [s[k], s[k + 1], s[k + 2]];
  out[o] = (1 - 2 * (y * y + z * z)) * sx;
  out[o + 1] = 2 * (x * y + z * w) * sx;
  out[o + 2] = 2 * (x * z - y * w) * sx;
  out[o + 3] = 0;
  out[o + 4] = 2 * (x * y - z * w) * sy;
  out[o + 5] = (1 - 2 * (x * x + z * z)) * sy;
  out[o + 6] = 2 * (y * z + x * w) * sy;
  out[o + 7] = 0;
  out[o + 8] = 2 * (x * z + y * w) * sz;
  out[o + 9] = 2 * (y * z - x * w) * sz;
  out[o + 10] = (1 - 2 * (x * x + y * y)) * sz;
  out[o + 11] = 0;
  out[o + 12] = p[i];
  out[o + 13] = p[i + 1];
  out[o + 14] = p[i + 2];
  out[o + 15] = 1;
}

/** Writes a·b, first b and then a; `out` may be neither. */
export function writeProduct(
  out: Float64Array,
  o: number,
  a: ArrayLike<number>,
  i: number,
  b: ArrayLike<number>,
  j: number,
): void {
  for (let c = 0; c < 16; c += 4) {
    const [x, y, z, w] = [b[j + c], b[j + c + 1], b[j + c + 2], b[j + c + 3]];
    out[o + c] = a[i] * x + a[i + 4] * y + a[i + 8] * z + a[i + 12] * w;
    out[o + c + 1] = a[i + 1] * x + a[i + 5] * y + a[i + 9] * z + a[i + 13] * w;
    out[o + c + 2] = a[i + 2] * x + a[i + 6] * y + a[i + 10] * z + a[i + 14] * w;
    out[o + c + 3] = w;
  }
}

/** Whether a map turns what is inside out. */
export const isMirroring = (m: ArrayLike<number>, o: number): boolean =>
  m[o] * (m[o + 5] * m[o + 10] - m[o + 6] * m[o + 9]) -
    m[o + 4] * (m[o + 1] * m[o + 10] - m[o + 2] * m[o + 9]) +
    m[o + 8] * (m[o + 1] * m[o + 6] - m[o + 2] * m[o + 5]) <
  0;

/** The rotation nearest to the axes of a map (each in turn made square to those before), and how long they are. */
export function turnAndSizes(
  m: ArrayLike<number>,
  o: number,
): { rotation: Quat; scale: [number, number, number] } {
  const sign = isMirroring(m, o) ? -1 : 1;
  const column = (c: number): [number, number, number] => [m[o + c * 4], m[o + c * 4 + 1], m[o + c * 4 + 2]];
  const length = (v: readonly number[]) => Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
  const [x, y, z] = [column(0), column(1), column(2)];
  const scale: [number, number, number] = [length(x) * sign, length(y), length(z)];
  const unit = (v: number[], l: number) => v.map((c) => (l !== 0 ? c / l : 0));
  const ux = unit(x, scale[0]);
  const along = y[0] * ux[0] + y[1] * ux[1] + y[2] * ux[2];
  const square = y.map((v, a) => v - ux[a] * along);
  const uy = unit(square, length(square));
  const uz = [ux[1] * uy[2] - ux[2] * uy[1], ux[2] * uy[0] - ux[0] * uy[2], ux[0] * uy[1] - ux[1] * uy[0]];
  return { rotation: quatOfColumns(ux, uy, uz), scale };
}

/** The unit quaternion of three unit columns that are square to each other (Shepperd 1978). */
function quatOfColumns(x: number[], y: number[], z: number[]): Quat {
  const trace = x[0] + y[1] + z[2];
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2;
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4];
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = Math.sqrt(1 + x[0] - y[1] - z[2]) * 2;
    return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s];
  }
  if (y[1] > z[2]) {
    const s = Math.sqrt(1 + y[1] - x[0] - z[2]) * 2;
    return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s];
  }
  const s = Math.sqrt(1 + z[2] - x[0] - y[1]) * 2;
  return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s];
}
