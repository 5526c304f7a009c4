import { STATE, type Placements } from '@/core/evaluate/result';

/** Instance matrices of one prop in one arrangement, ready for the GPU. */
export interface DrawBatch {
  prop: string;
  /** Column-major 4×4 a placed prop, from the prop's own space to the scene. */
  matrices: Float32Array;
  /** Row of the placements behind each instance. */
  rows: Uint32Array;
}

/** Matrices of everything placed, by prop. */
export function drawBatches(p: Placements): DrawBatch[] {
  const counts = new Uint32Array(p.props.length);
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed) counts[p.prop[i]]++;
  const batches = p.props.map((prop, k) => ({
    prop,
    matrices: new Float32Array(counts[k] * 16),
    rows: new Uint32Array(counts[k]),
  }));
  const at = new Uint32Array(p.props.length);
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const batch = batches[p.prop[i]];
    const n = at[p.prop[i]]++;
    batch.rows[n] = i;
    writeMatrix(p, i, batch.matrices, n * 16);
  }
  return batches.filter((b) => b.rows.length > 0);
}

/** Position, rotation and scale of row i as a column-major matrix. */
export function writeMatrix(p: Placements, i: number, out: Float32Array, o: number): void {
  const [x, y, z, w] = [
    p.rotation[i * 4],
    p.rotation[i * 4 + 1],
    p.rotation[i * 4 + 2],
    p.rotation[i * 4 + 3],
  ];
  const [sx, sy, sz] = [p.scale[i * 3], p.scale[i * 3 + 1], p.scale[i * 3 + 2]];
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
  out[o + 12] = p.position[i * 3];
  out[o + 13] = p.position[i * 3 + 1];
  out[o + 14] = p.position[i * 3 + 2];
  out[o + 15] = 1;
}
