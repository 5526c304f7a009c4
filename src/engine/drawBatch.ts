import type { Placements } from '@/core/arrange/result';
import type { DrawBlocks } from './blocks';

/** Instance matrices of one prop in one arrangement, ready for the GPU. */
export interface DrawBatch {
  prop: string;
  /** Drawn with a shape of their own, its number; absent for the prop's mesh. Sizes are in it already. */
  shape?: number;
  /** Drawn in a pose, its number. */
  pose?: number;
  /** Drawn into a surface: it is only picked by its mesh. */
  laid?: true;
  /** Drawn with the prop's mesh mirrored left to right; the matrices do not mirror then. */
  mirrored: boolean;
  /** In copies of bundles, the row of `inside` behind each instance: `rows` are those of the copies, and its shapes theirs. */
  within?: Uint32Array;
  /** Those of `within`: the arrangements that they are of, from outside in, below the one that is drawn. */
  of?: string[];
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

/** Position, rotation and size (a mirrored one's without the mirroring) of row i as a column-major matrix. */
export function writeMatrix(p: Placements, i: number, out: Float32Array, o: number, sized = false): void {
  const { position, rotation, scale } = p;
  const x = rotation[i * 4];
  const y = rotation[i * 4 + 1];
  const z = rotation[i * 4 + 2];
  const w = rotation[i * 4 + 3];
  const sx = sized ? 1 : Math.abs(scale[i * 3]);
  const sy = sized ? 1 : scale[i * 3 + 1];
  const sz = sized ? 1 : scale[i * 3 + 2];
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
  out[o + 12] = position[i * 3];
  out[o + 13] = position[i * 3 + 1];
  out[o + 14] = position[i * 3 + 2];
  out[o + 15] = 1;
}
