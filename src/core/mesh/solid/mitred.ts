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
    const [x, y, z] = [cross[0] / l, cross[1] / l, cross[2] / l];
    for (let k = 0; k < 3; k++) {
      const at = (corner: number, axis: number) => positions[indices[f * 3 + ((k + corner) % 3)] * 3 + axis];
      const side = (corner: number) => [0, 1, 2].map((axis) => at(corner, axis) - at(0, axis));
      const [a, b] = [side(1), side(2)];
      const dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      const weight = atan2(l, dot);
      const v = weld[indices[f * 3 + k]];
      const q = v * 6;
      squares[q] += weight * x * x;
      squares[q + 1] += weight * x * y;
      squares[q + 2] += weight * x * z;
      squares[q + 3] += weight * y * y;
      squares[q + 4] += weight * y * z;
      squares[q + 5] += weight * z * z;
      sums[v * 3] += weight * x;
      sums[v * 3 + 1] += weight * y;
      sums[v * 3 + 2] += weight * z;
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
  const [a, b, c] = [squares[q] + e, squares[q + 1], squares[q + 2]];
  const [d, f, g] = [squares[q + 3] + e, squares[q + 4], squares[q + 5] + e];
  const [A, B, C] = [d * g - f * f, c * f - b * g, b * f - c * d];
  const det = a * A + b * B + c * C;
  if (!(det > 0)) return;
  const o = v * 3;
  const [x, y, z] = [sums[o], sums[o + 1], sums[o + 2]];
  const w = [
    (A * x + B * y + C * z) / det,
    (B * x + (a * g - c * c) * y + (b * c - a * f) * z) / det,
    (C * x + (b * c - a * f) * y + (a * d - b * b) * z) / det,
  ];
  const long = Math.sqrt(w[0] * w[0] + w[1] * w[1] + w[2] * w[2]);
  const by = long > LONGEST ? LONGEST / long : 1;
  for (let k = 0; k < 3; k++) sums[o + k] = w[k] * by;
}
