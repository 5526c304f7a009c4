import { STATE, type Placements } from '@/core/arrange/result';
import { beforeAgain, type SettledRows } from '@/core/arrange/settledRows';
import { BLOCK, measured, placeCodes } from './blocks';
import { writeMatrix, type DrawBatch } from './drawBatch';

/**
 * Batches of places that are settled once, and of which a mask that is dragged or painted takes some in and others out:
 * their matrices stay in an order of places, and those of the ones that stand are copied in whole stretches.
 */

/** What is known of settled rows, by prop and then along the curve through space. */
interface Kept {
  /** By row: whether it is among them. */
  has: Uint8Array;
  codeAt: (x: number, y: number, z: number) => number;
  order: Uint32Array;
  /** Prop and handedness of each, then how far along the curve it is: rising. */
  keys: Float64Array;
  matrices: Float32Array;
  tints: Float32Array | null;
}

/** More than there are cells along the curve. */
const CODES = 2 ** 20;

const kept = new WeakMap<Placements, Kept>();

function begun(of: Placements, rows: Uint32Array): Kept {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const row of rows)
    for (let a = 0; a < 3; a++) {
      const v = of.position[row * 3 + a];
      if (v < low[a]) low[a] = v;
      if (v > high[a]) high[a] = v;
    }
  return {
    has: new Uint8Array(of.count),
    codeAt: placeCodes(low, Math.max(...high.map((h, a) => h - low[a])), rows.length),
    order: new Uint32Array(0),
    keys: new Float64Array(0),
    matrices: new Float32Array(0),
    tints: of.tint ? new Float32Array(0) : null,
  };
}

/** What was known before some rows were settled anew: all but those. */
function takenOver(of: Placements): Kept | undefined {
  const again = beforeAgain(of);
  const was = again && kept.get(again.was);
  if (!was) return undefined;
  kept.delete(again.was);
  for (const row of again.rows) was.has[row] = 0;
  let n = 0;
  for (let j = 0; j < was.order.length;) {
    const first = j;
    while (j < was.order.length && was.has[was.order[j]]) j++;
    was.order.copyWithin(n, first, j);
    was.keys.copyWithin(n, first, j);
    was.matrices.copyWithin(n * 16, first * 16, j * 16);
    was.tints?.copyWithin(n * 3, first * 3, j * 3);
    n += j - first;
    while (j < was.order.length && !was.has[was.order[j]]) j++;
  }
  return {
    ...was,
    order: was.order.subarray(0, n),
    keys: was.keys.subarray(0, n),
    matrices: was.matrices.subarray(0, n * 16),
    tints: was.tints && was.tints.subarray(0, n * 3),
  };
}

/** Puts rows that are new in between those that are known. */
function takeIn(known: Kept, of: Placements, fresh: Uint32Array): void {
  const { position, prop, scale } = of;
  const keyOf = Float64Array.from(
    fresh,
    (row) =>
      (prop[row] * 2 + (scale[row * 3] < 0 ? 1 : 0)) * CODES +
      known.codeAt(position[row * 3], position[row * 3 + 1], position[row * 3 + 2]),
  );
  const sorted = Uint32Array.from(fresh.keys()).sort((a, b) => keyOf[a] - keyOf[b] || a - b);
  const was = { ...known };
  const n = was.order.length + fresh.length;
  known.order = new Uint32Array(n);
  known.keys = new Float64Array(n);
  known.matrices = new Float32Array(n * 16);
  if (was.tints) known.tints = new Float32Array(n * 3);
  let [from, to] = [0, 0];
  /** Copies those that come before a key. */
  const copyUpTo = (key: number) => {
    const first = from;
    while (from < was.order.length && was.keys[from] <= key) from++;
    known.order.set(was.order.subarray(first, from), to);
    known.keys.set(was.keys.subarray(first, from), to);
    known.matrices.set(was.matrices.subarray(first * 16, from * 16), to * 16);
    if (was.tints) known.tints!.set(was.tints.subarray(first * 3, from * 3), to * 3);
    to += from - first;
  };
  for (const i of sorted) {
    copyUpTo(keyOf[i]);
    const row = fresh[i];
    known.has[row] = 1;
    known.order[to] = row;
    known.keys[to] = keyOf[i];
    writeMatrix(of, row, known.matrices, to * 16);
    if (of.tint) known.tints!.set(of.tint.subarray(row * 3, row * 3 + 3), to * 3);
    to++;
  }
  copyUpTo(Infinity);
}

/**
 * Batches of some rows of what is settled, as {@link drawBatches} would make them: the same instances, in another order.
 * @param p the rows, none of a shape or a pose of its own
 */
export function settledBatches(p: Placements, { of, rows }: SettledRows): DrawBatch[] {
  const known = kept.get(of) ?? takenOver(of) ?? begun(of, rows);
  kept.set(of, known);
  const at = new Int32Array(of.count).fill(-1);
  const fresh = new Uint32Array(rows.length);
  let count = 0;
  for (let i = 0; i < rows.length; i++) {
    if (p.state[i] !== STATE.placed) continue;
    at[rows[i]] = i;
    if (!known.has[rows[i]]) fresh[count++] = rows[i];
  }
  if (count > 0) takeIn(known, of, fresh.subarray(0, count));
  const batches: DrawBatch[] = [];
  for (let start = 0; start < known.order.length;) {
    const kind = Math.floor(known.keys[start] / CODES);
    const end = firstAbove(known.keys, (kind + 1) * CODES, start);
    const batch = oneBatch(p, known, at, start, end, kind);
    if (batch) batches.push(batch);
    start = end;
  }
  return batches;
}

/** The instances of one prop and hand, from what is known of them between two numbers of the order. */
function oneBatch(
  p: Placements,
  { order, matrices, tints }: Kept,
  at: Int32Array,
  start: number,
  end: number,
  kind: number,
): DrawBatch | null {
  // Which entries of the order stand, and which row of the placements each is.
  const entries = new Uint32Array(end - start);
  const rows = new Uint32Array(end - start);
  let count = 0;
  for (let j = start; j < end; j++) {
    const row = at[order[j]];
    if (row < 0) continue;
    entries[count] = j;
    rows[count++] = row;
  }
  if (count === 0) return null;
  const batch: DrawBatch = {
    prop: p.props[kind >> 1],
    mirrored: kind % 2 === 1,
    matrices: new Float32Array(count * 16),
    rows: rows.slice(0, count),
    ...(tints && { tints: new Float32Array(count * 3) }),
  };
  for (let n = 0; n < count;) {
    const first = n;
    const ahead = entries[n] - n;
    while (n < count && entries[n] - n === ahead) n++;
    copyStretch(matrices, batch.matrices, first + ahead, n + ahead, first, 16);
    if (tints) copyStretch(tints, batch.tints!, first + ahead, n + ahead, first, 3);
  }
  if (count > BLOCK) batch.blocks = { ...measured(batch), sorted: true };
  else inOrderOfRows(batch);
  return batch;
}

/** Shorter stretches are copied number by number: to say where one lies takes longer. */
const LONG = 12;

/** Copies entries of so many numbers, from `first` up to `end`, to where the entry `to` is. */
function copyStretch(
  from: Float32Array,
  out: Float32Array,
  first: number,
  end: number,
  to: number,
  size: number,
): void {
  if (end - first >= LONG) return out.set(from.subarray(first * size, end * size), to * size);
  for (let p = first * size, q = to * size; p < end * size; p++, q++) out[q] = from[p];
}

/** Instances that are no blocks come as their rows rise. */
function inOrderOfRows(batch: DrawBatch): void {
  const { matrices, rows, tints } = { ...batch };
  const sorted = Uint32Array.from(rows.keys()).sort((a, b) => rows[a] - rows[b]);
  batch.rows = rows.slice().sort();
  batch.matrices = new Float32Array(matrices.length);
  sorted.forEach((i, k) => batch.matrices.set(matrices.subarray(i * 16, i * 16 + 16), k * 16));
  if (!tints) return;
  batch.tints = new Float32Array(tints.length);
  sorted.forEach((i, k) => batch.tints!.set(tints.subarray(i * 3, i * 3 + 3), k * 3));
}

/** The first number of a rising list that is at least so much, from `low` on. */
function firstAbove(keys: Float64Array, least: number, low: number): number {
  let high = keys.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keys[middle] < least) low = middle + 1;
    else high = middle;
  }
  return low;
}
