import { orderByPlace } from '@/core/math/hilbert';

/**
 * Instances that lie near each other are drawn together: so many of a batch that follow each other are a block, which
 * the view draws in full, simply, as points, or not at all.
 */

/** Instances in a block; the last one may have fewer. */
export const BLOCK = 1024;

/** Where the blocks of a batch are, and how large what stands in them. */
export interface DrawBlocks {
  /** Least x, y, z and greatest x, y, z of the feet in each block. */
  boxes: Float32Array;
  /** The greatest size factor in each. */
  sizes: Float32Array;
  /** Whether the instances were sorted by their places: then their rows do not rise. */
  sorted?: true;
}

/** Blocks are on average this many times as wide as squares side by side would be: then they are sorted anew. */
const SCATTERED = 1.5;

interface Instances {
  matrices: Float32Array;
  rows: Uint32Array;
  within?: Uint32Array;
  tints?: Float32Array;
}

/**
 * Blocks of a batch of more instances than one block holds. What comes in no order of places (pegs, scattered props)
 * is brought into one: its arrays are written over.
 * @param sorted whether it has been brought into one before
 */
export function blocksOf(batch: Instances, sorted = false): DrawBlocks {
  const blocks = measured(batch);
  if (sorted) return { ...blocks, sorted };
  const count = blocks.sizes.length;
  const whole = [0, 1, 2].map((a) => {
    let [low, high] = [Infinity, -Infinity];
    for (let b = 0; b < count; b++) {
      low = Math.min(low, blocks.boxes[b * 6 + a]);
      high = Math.max(high, blocks.boxes[b * 6 + 3 + a]);
    }
    return { low, wide: high - low };
  });
  const diagonal = Math.hypot(...whole.map((w) => w.wide));
  let sum = 0;
  for (let b = 0; b < count; b++)
    sum += Math.hypot(...[0, 1, 2].map((a) => blocks.boxes[b * 6 + 3 + a] - blocks.boxes[b * 6 + a]));
  if (sum / count <= (SCATTERED * diagonal) / Math.sqrt(count)) return blocks;
  sortByPlace(batch);
  return { ...measured(batch), sorted: true };
}

/** Lets the block of an instance that changed hold it: it may be wider than need be, never too narrow. */
export function widen({ boxes, sizes }: DrawBlocks, matrices: Float32Array, i: number): void {
  const b = Math.floor(i / BLOCK);
  for (let a = 0; a < 3; a++) {
    const v = matrices[i * 16 + 12 + a];
    boxes[b * 6 + a] = Math.min(boxes[b * 6 + a], v);
    boxes[b * 6 + 3 + a] = Math.max(boxes[b * 6 + 3 + a], v);
  }
  sizes[b] = Math.max(sizes[b], largest(matrices, i, i + 1));
}

function measured({ matrices, rows }: Instances): DrawBlocks {
  const count = Math.ceil(rows.length / BLOCK);
  const boxes = new Float32Array(count * 6);
  const sizes = new Float32Array(count);
  for (let b = 0; b < count; b++) {
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    const end = Math.min(rows.length, (b + 1) * BLOCK);
    for (let i = b * BLOCK; i < end; i++) {
      for (let a = 0; a < 3; a++) {
        const v = matrices[i * 16 + 12 + a];
        if (v < low[a]) low[a] = v;
        if (v > high[a]) high[a] = v;
      }
    }
    boxes.set(low, b * 6);
    boxes.set(high, b * 6 + 3);
    sizes[b] = largest(matrices, b * BLOCK, end);
  }
  return { boxes, sizes };
}

/** The greatest size factor along any axis of some instances. */
export function largest(m: Float32Array, from: number, to: number): number {
  let most = 0;
  for (let o = from * 16; o < to * 16; o += 16)
    for (let c = o; c < o + 12; c += 4)
      most = Math.max(most, m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]);
  return Math.sqrt(most);
}

/** Sorts instances so that those behind each other are near each other. */
function sortByPlace({ matrices, rows, within, tints }: Instances): void {
  const order = orderByPlace(matrices, rows.length, 12, 16);
  const was = {
    matrices: matrices.slice(),
    rows: rows.slice(),
    within: within?.slice(),
    tints: tints?.slice(),
  };
  order.forEach((i, to) => {
    rows[to] = was.rows[i];
    if (within) within[to] = was.within![i];
    for (let k = 0; k < 16; k++) matrices[to * 16 + k] = was.matrices[i * 16 + k];
    if (tints) for (let k = 0; k < 3; k++) tints[to * 3 + k] = was.tints![i * 3 + k];
  });
}
