import { atan2 } from '../../math/portable';
import { faceCross } from '../face';
import type { Topology, Triangles } from '../lines/topology';

/** The longest way that a corner is moved, as a share of the distance: sharper ones are blunted. */
const LONGEST = 4;

/**
 * The way that each welded vertex goes so that every face about it moves along its own normal by one: the solution of
 * w · n = 1 for the normals n of its faces, least in length where they do not settle it (on a flat part or an edge), and
 * nearest to all of them where more than three meet.
 * @param topology that of the same faces, however they are deformed
 * @returns xyz a welded vertex; 0 where it has no face with an area
 */
export function mitred({ positions, indices }: Triangles, topology: Topology): Float64Array {
  const { weld, position } = topology;
  const count = position.length / 3;
  // Σ a n nᵀ (upper half: xx xy xz yy yz zz) and Σ a n a vertex, a the angle of the face there.
  const squares = new Float64Array(count * 6);
  const sums = new Float64Array(count * 3);
  const cross = new Float64Array(3);
  for (let f = 0; f * 3 < indices.length; f++) {
    faceCross(positions, indices, f, cross);
    const l = Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]);
    if (!(l > 0)) continue;
    const x = cross[0] / l;
    const y = cross[1] / l;
    const z = cross[2] / l;
    for (let k = 0; k < 3; k++) {
      // The angle at the corner, from the sides to the next one and to the one before.
      const corner = indices[f * 3 + k];
      const o = corner * 3;
      const n = indices[f * 3 + ((k + 1) % 3)] * 3;
      const m = indices[f * 3 + ((k + 2) % 3)] * 3;
      const dot =
        (positions[n] - positions[o]) * (positions[m] - positions[o]) +
        (positions[n + 1] - positions[o + 1]) * (positions[m + 1] - positions[o + 1]) +
        (positions[n + 2] - positions[o + 2]) * (positions[m + 2] - positions[o + 2]);
      const weight = atan2(l, dot);
      const v = weld[corner] * 3;
      const q = v * 2;
      squares[q] += weight * x * x;
      squares[q + 1] += weight * x * y;
      squares[q + 2] += weight * x * z;
      squares[q + 3] += weight * y * y;
      squares[q + 4] += weight * y * z;
      squares[q + 5] += weight * z * z;
      sums[v] += weight * x;
      sums[v + 1] += weight * y;
      sums[v + 2] += weight * z;
    }
  }
  for (let v = 0; v < count; v++) solve(squares, sums, v);
  return sums;
}

/** Solves (S + ε) w = s in place; ε is so small that only what S leaves open is pressed to nothing. */
function solve(squares: Float64Array, sums: Float64Array, v: number): void {
  const q = v * 6;
  const trace = squares[q] + squares[q + 3] + squares[q + 5];
  if (!(trace > 0)) return;
  const e = trace * 1e-7;
  const a = squares[q] + e;
  const b = squares[q + 1];
  const c = squares[q + 2];
  const d = squares[q + 3] + e;
  const f = squares[q + 4];
  const g = squares[q + 5] + e;
  // By its cofactors.
  const A = d * g - f * f;
  const B = c * f - b * g;
  const C = b * f - c * d;
  const det = a * A + b * B + c * C;
  if (!(det > 0)) return;
  const o = v * 3;
  const x = sums[o];
  const y = sums[o + 1];
  const z = sums[o + 2];
  const p = (A * x + B * y + C * z) / det;
  const r = (B * x + (a * g - c * c) * y + (b * c - a * f) * z) / det;
  const s = (C * x + (b * c - a * f) * y + (a * d - b * b) * z) / det;
  const long = Math.sqrt(p * p + r * r + s * s);
  const by = long > LONGEST ? LONGEST / long : 1;
  sums[o] = p * by;
  sums[o + 1] = r * by;
  sums[o + 2] = s * by;
}
