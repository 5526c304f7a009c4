import type { Vec3 } from '@/core/math/vec3';

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
/** So many blocks are looked at for that. */
const SAMPLED = 16;
/** Bits of a place along each axis that decide what is near what; of fewer instances one less is as good, and quicker. */
const bitsFor = (instances: number): number => (instances < 200_000 ? 5 : 6);

interface Instances {
  matrices: Float32Array;
  rows: Uint32Array;
  within?: Uint32Array;
  tints?: Float32Array;
}

/**
 * Blocks of a batch of more instances than one block holds. What comes in no order of places (pegs, scattered props)
 * is brought into one: its arrays are written over.
 */
export function blocksOf(batch: Instances): DrawBlocks {
  const n = batch.rows.length;
  const count = Math.ceil(n / BLOCK);
  const whole = boxOf(batch.matrices, 0, n);
  // A few of them tell how the others are.
  const step = Math.ceil(count / SAMPLED);
  let sum = 0;
  let seen = 0;
  for (let b = 0; b < count; b += step, seen++)
    sum += diagonalOf(boxOf(batch.matrices, b * BLOCK, Math.min(n, (b + 1) * BLOCK)));
  if (sum / seen <= (SCATTERED * diagonalOf(whole)) / Math.sqrt(count)) return measured(batch);
  sortByPlace(batch, whole);
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

/** How far the blocks of a batch reach, as its instances lie. */
export function measured({ matrices, rows }: Pick<Instances, 'matrices' | 'rows'>): DrawBlocks {
  const count = Math.ceil(rows.length / BLOCK);
  const boxes = new Float32Array(count * 6);
  const sizes = new Float32Array(count);
  for (let b = 0; b < count; b++) {
    const end = Math.min(rows.length, (b + 1) * BLOCK);
    boxes.set(boxOf(matrices, b * BLOCK, end), b * 6);
    sizes[b] = largest(matrices, b * BLOCK, end);
  }
  return { boxes, sizes };
}

/** Least x, y, z and greatest x, y, z of the feet of some instances. */
function boxOf(m: Float32Array, from: number, to: number): [...Vec3, ...Vec3] {
  let x0 = Infinity;
  let y0 = Infinity;
  let z0 = Infinity;
  let x1 = -Infinity;
  let y1 = -Infinity;
  let z1 = -Infinity;
  for (let o = from * 16 + 12; o < to * 16; o += 16) {
    const x = m[o];
    const y = m[o + 1];
    const z = m[o + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  return [x0, y0, z0, x1, y1, z1];
}

const diagonalOf = ([x0, y0, z0, x1, y1, z1]: readonly number[]): number =>
  Math.hypot(x1 - x0, y1 - y0, z1 - z0);

/** The greatest size factor along any axis of some instances. */
export function largest(m: Float32Array, from: number, to: number): number {
  let most = 0;
  for (let o = from * 16; o < to * 16; o += 16)
    for (let c = o; c < o + 12; c += 4)
      most = Math.max(most, m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]);
  return Math.sqrt(most);
}

/** By bits: how far along the curve each cell of the cube is; made when it is first needed. */
const curves = new Map<number, Uint32Array>();

function curveOfCells(bits: number): Uint32Array {
  let out = curves.get(bits);
  if (out) return out;
  const side = 1 << bits;
  curves.set(bits, (out = new Uint32Array(side * side * side)));
  const at = [0, 0, 0];
  for (let x = 0, i = 0; x < side; x++)
    for (let y = 0; y < side; y++)
      for (let z = 0; z < side; z++) {
        at[0] = x;
        at[1] = y;
        at[2] = z;
        out[i++] = alongHilbert(at, bits);
      }
  return out;
}

/**
 * Tells how far along a curve through space that never jumps (Hilbert's) the cell is that a place lies in.
 * @param low least corner of a cube @param wide its side; places beyond it belong to its outermost cells
 * @param instances how many there are about
 */
export function placeCodes(
  [lx, ly, lz]: readonly number[],
  wide: number,
  instances: number,
): (x: number, y: number, z: number) => number {
  const bits = bitsFor(instances);
  const codes = curveOfCells(bits);
  const most = (1 << bits) - 1;
  const cells = most / Math.max(wide, 1e-30);
  const cell = (v: number) => Math.min(most, Math.max(0, Math.round(v * cells)));
  return (x, y, z) => codes[(cell(x - lx) << (2 * bits)) | (cell(y - ly) << bits) | cell(z - lz)];
}

/** Sorts instances along the curve, by the cells that they lie in. */
function sortByPlace(
  { matrices, rows, within, tints }: Instances,
  [x, y, z, ...high]: readonly number[],
): void {
  const n = rows.length;
  const codeAt = placeCodes([x, y, z], Math.max(high[0] - x, high[1] - y, high[2] - z), n);
  const code = new Uint32Array(n);
  const start = new Uint32Array((1 << (3 * bitsFor(n))) + 1);
  for (let i = 0, o = 12; i < n; i++, o += 16) {
    code[i] = codeAt(matrices[o], matrices[o + 1], matrices[o + 2]);
    start[code[i] + 1]++;
  }
  for (let c = 1; c < start.length; c++) start[c] += start[c - 1];
  const was = {
    matrices: matrices.slice(),
    rows: rows.slice(),
    within: within?.slice(),
    tints: tints?.slice(),
  };
  for (let i = 0; i < n; i++) {
    const to = start[code[i]]++;
    rows[to] = was.rows[i];
    if (within) within[to] = was.within![i];
    for (let k = 0; k < 16; k++) matrices[to * 16 + k] = was.matrices[i * 16 + k];
    if (tints) for (let k = 0; k < 3; k++) tints[to * 3 + k] = was.tints![i * 3 + k];
  }
}

/**
 * How far along Hilbert's curve through a cube a cell of it is (Skilling, “Programming the Hilbert curve”, 2004).
 * @param at the cell's three whole numbers below 2^bits; written over
 */
function alongHilbert(at: number[], bits: number): number {
  const top = 1 << (bits - 1);
  for (let q = top; q > 1; q >>= 1) {
    const p = q - 1;
    for (let a = 0; a < 3; a++) {
      if (at[a] & q) at[0] ^= p;
      else {
        const t = (at[0] ^ at[a]) & p;
        at[0] ^= t;
        at[a] ^= t;
      }
    }
  }
  at[1] ^= at[0];
  at[2] ^= at[1];
  let t = 0;
  for (let q = top; q > 1; q >>= 1) if (at[2] & q) t ^= q - 1;
  let code = 0;
  for (let bit = bits - 1; bit >= 0; bit--)
    for (let a = 0; a < 3; a++) code = code * 2 + (((at[a] ^ t) >> bit) & 1);
  return code;
}
