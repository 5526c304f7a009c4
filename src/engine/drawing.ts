import { STATE, type Placements } from '@/core/arrange/result';
import { BLOCK, blocksOf, type DrawBlocks } from './blocks';

/** Instance matrices of one prop in one arrangement, ready for the GPU. */
export interface DrawBatch {
  prop: string;
  /** Drawn with a shape of their own, its number; absent for the prop's mesh. Sizes are in it already. */
  shape?: number;
  /** Drawn with the prop's mesh mirrored left to right; the matrices do not mirror then. */
  mirrored: boolean;
  /** Linear red, green, blue an instance; absent where nothing is tinted. */
  tints?: Float32Array;
  /** Column-major 4×4 a placed prop, from the prop's own space to the scene. */
  matrices: Float32Array;
  /** Row of the placements behind each instance; rising, but where the instances came in no order of places. */
  rows: Uint32Array;
  /** Of a batch of many. */
  blocks?: DrawBlocks;
  /** How often its arrays were written over, and the only instances that the last time changed. */
  changed?: { times: number; instances: number[] };
}

/** Matrices of everything placed, by prop, mirrored ones apart. */
export function drawBatches(p: Placements): DrawBatch[] {
  const kinds = p.props.length * 2;
  const shapes = p.bent?.length ?? 0;
  const shapeAt = (i: number) => (p.shape ? p.shape[i] : -1);
  // Those of a shape of their own come after the plain ones.
  const kindOf = (i: number) =>
    shapeAt(i) >= 0 ? kinds + shapeAt(i) : p.prop[i] * 2 + (p.scale[i * 3] < 0 ? 1 : 0);
  const counts = new Uint32Array(kinds + shapes);
  const propOf = new Int32Array(kinds + shapes).fill(-1);
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    counts[kindOf(i)]++;
    propOf[kindOf(i)] = p.prop[i];
  }
  const batches = Array.from(counts, (count, k): DrawBatch => ({
    prop: p.props[propOf[k]],
    mirrored: k < kinds && k % 2 === 1,
    ...(k >= kinds && { shape: k - kinds }),
    matrices: new Float32Array(count * 16),
    rows: new Uint32Array(count),
    ...(p.tint && { tints: new Float32Array(count * 3) }),
  }));
  const at = new Uint32Array(kinds + shapes);
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const k = kindOf(i);
    const n = at[k]++;
    batches[k].rows[n] = i;
    writeMatrix(p, i, batches[k].matrices, n * 16, k >= kinds);
    if (p.tint) batches[k].tints!.set(p.tint.subarray(i * 3, i * 3 + 3), n * 3);
  }
  for (const b of batches) if (b.rows.length > BLOCK) b.blocks = blocksOf(b);
  return batches.filter((b) => b.rows.length > 0);
}

/** Position, rotation and size (a mirrored one's without the mirroring) of row i as a column-major matrix. */
export function writeMatrix(p: Placements, i: number, out: Float32Array, o: number, sized = false): void {
  const [x, y, z, w] = [
    p.rotation[i * 4],
    p.rotation[i * 4 + 1],
    p.rotation[i * 4 + 2],
    p.rotation[i * 4 + 3],
  ];
  const [sx, sy, sz] = sized ? [1, 1, 1] : [Math.abs(p.scale[i * 3]), p.scale[i * 3 + 1], p.scale[i * 3 + 2]];
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

const placesOf = new WeakMap<Uint32Array, Int32Array>();

/** Which instance of a batch a row is; -1 where it is none. */
export function instanceOf({ rows, blocks }: DrawBatch, row: number): number {
  if (!blocks?.sorted) return placeAmong(rows, row);
  let places = placesOf.get(rows);
  if (!places) {
    places = new Int32Array(rows.reduce((most, r) => Math.max(most, r), 0) + 1).fill(-1);
    for (let i = 0; i < rows.length; i++) places[rows[i]] = i;
    placesOf.set(rows, places);
  }
  return places[row] ?? -1;
}

/** Where a row is in a rising list of rows; -1 where it is not. */
function placeAmong(rows: Uint32Array, row: number): number {
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rows[middle] < row) low = middle + 1;
    else high = middle;
  }
  return rows[low] === row ? low : -1;
}
