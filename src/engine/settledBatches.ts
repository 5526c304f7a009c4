import { STATE, type Placements } from '@/core/arrange/result';
import { beforeAgain, type SettledRows } from '@/core/arrange/settledRows';
import { BLOCK, measured, placeCodes } from './blocks';
import { writeMatrix, type DrawBatch } from './drawBatch';

/**
 * Batches of places that are settled once, and of which a mask that is dragged or painted takes some in and others out:
 * the matrices of those that stand are kept in an order of places, and what comes or goes is put in or taken out there.
 */

/** Those of some settled rows that stand, by prop and then along the curve through space. */
interface Standing {
  /** By row: whether it is among them. */
  has: Uint8Array;
  /** By row: which of the placements that are looked at it is; negative where it is none. */
  at: Int32Array;
  codeAt: (x: number, y: number, z: number) => number;
  count: number;
  /** Their rows; these lists have room for more. */
  order: Uint32Array;
  /** Prop and handedness of each, then how far along the curve it is: rising. */
  keys: Float64Array;
  matrices: Float32Array;
  tints: Float32Array | null;
}

/** More than there are cells along the curve. */
const CODES = 2 ** 20;

const kept = new WeakMap<Placements, Standing>();

function begun(of: Placements, rows: Uint32Array): Standing {
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
    at: new Int32Array(of.count),
    codeAt: placeCodes(low, Math.max(...high.map((h, a) => h - low[a])), rows.length),
    count: 0,
    order: new Uint32Array(0),
    keys: new Float64Array(0),
    matrices: new Float32Array(0),
    tints: of.tint ? new Float32Array(0) : null,
  };
}

/** What stood before some rows were settled anew: all but those. */
function takenOver(of: Placements): Standing | undefined {
  const again = beforeAgain(of);
  const was = again && kept.get(again.was);
  if (!was) return undefined;
  kept.delete(again.was);
  for (const row of again.rows) was.has[row] = 0;
  return was;
}

/** Moves what is known of those from `first` up to `end` to another number of the lists. */
function move({ order, keys, matrices, tints }: Standing, to: number, first: number, end: number): void {
  if (to === first || first === end) return;
  order.copyWithin(to, first, end);
  keys.copyWithin(to, first, end);
  matrices.copyWithin(to * 16, first * 16, end * 16);
  tints?.copyWithin(to * 3, first * 3, end * 3);
}

/** Takes out what does not stand any more. */
function takeOut(standing: Standing): void {
  const { order, has, at } = standing;
  const stands = (j: number) => has[order[j]] === 1 && at[order[j]] >= 0;
  let n = 0;
  for (let j = 0; j < standing.count;) {
    const first = j;
    while (j < standing.count && stands(j)) j++;
    move(standing, n, first, j);
    n += j - first;
    for (; j < standing.count && !stands(j); j++) has[order[j]] = 0;
  }
  standing.count = n;
}

function makeRoom(standing: Standing, count: number): void {
  if (standing.order.length >= count) return;
  const room = Math.ceil(count * 1.25);
  const { order, keys, matrices, tints } = standing;
  (standing.order = new Uint32Array(room)).set(order);
  (standing.keys = new Float64Array(room)).set(keys);
  (standing.matrices = new Float32Array(room * 16)).set(matrices);
  if (tints) (standing.tints = new Float32Array(room * 3)).set(tints);
}

/** Puts rows that are new in between those that stand. */
function takeIn(standing: Standing, of: Placements, fresh: readonly number[]): void {
  const { position, prop, scale } = of;
  const keyOf = Float64Array.from(
    fresh,
    (row) =>
      (prop[row] * 2 + (scale[row * 3] < 0 ? 1 : 0)) * CODES +
      standing.codeAt(position[row * 3], position[row * 3 + 1], position[row * 3 + 2]),
  );
  const sorted = Uint32Array.from(fresh.keys()).sort((a, b) => keyOf[a] - keyOf[b] || a - b);
  makeRoom(standing, standing.count + fresh.length);
  const { has, order, keys, matrices, tints } = standing;
  // From the end on, so that each stretch is moved once, to where it stays.
  let end = standing.count;
  for (let k = sorted.length - 1; k >= 0; k--) {
    const [row, key] = [fresh[sorted[k]], keyOf[sorted[k]]];
    const first = firstFrom(keys, key + 1, end);
    move(standing, first + k + 1, first, end);
    end = first;
    const to = first + k;
    has[row] = 1;
    order[to] = row;
    keys[to] = key;
    writeMatrix(of, row, matrices, to * 16);
    if (of.tint) for (let a = 0; a < 3; a++) tints![to * 3 + a] = of.tint[row * 3 + a];
  }
  standing.count += fresh.length;
}

/**
 * Batches of some rows of what is settled, as {@link drawBatches} would make them: the same instances, in another order.
 * @param p the rows, none of a shape or a pose of its own
 */
export function settledBatches(p: Placements, { of, rows }: SettledRows): DrawBatch[] {
  const standing = kept.get(of) ?? takenOver(of) ?? begun(of, rows);
  kept.set(of, standing);
  const { at, has } = standing;
  at.fill(-1);
  const fresh: number[] = [];
  for (let i = 0; i < rows.length; i++) {
    if (p.state[i] !== STATE.placed) continue;
    at[rows[i]] = i;
    if (has[rows[i]] === 0) fresh.push(rows[i]);
  }
  takeOut(standing);
  if (fresh.length > 0) takeIn(standing, of, fresh);
  const batches: DrawBatch[] = [];
  for (let start = 0; start < standing.count;) {
    const kind = Math.floor(standing.keys[start] / CODES);
    const end = firstFrom(standing.keys, (kind + 1) * CODES, standing.count);
    batches.push(oneBatch(p, standing, start, end, kind));
    start = end;
  }
  return batches;
}

/** The instances of one prop and hand, which are those between two numbers of the order. */
function oneBatch(
  p: Placements,
  { at, order, matrices, tints }: Standing,
  start: number,
  end: number,
  kind: number,
): DrawBatch {
  const batch: DrawBatch = {
    prop: p.props[kind >> 1],
    mirrored: kind % 2 === 1,
    matrices: matrices.slice(start * 16, end * 16),
    rows: order.slice(start, end),
    ...(tints && { tints: tints.slice(start * 3, end * 3) }),
  };
  const { rows } = batch;
  for (let j = 0; j < rows.length; j++) rows[j] = at[rows[j]];
  if (rows.length > BLOCK) batch.blocks = { ...measured(batch), sorted: true };
  else inOrderOfRows(batch);
  return batch;
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

/** Where the numbers of a rising list that are at least so much begin, of those before `high`. */
function firstFrom(keys: Float64Array, least: number, high: number): number {
  let low = 0;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keys[middle] < least) low = middle + 1;
    else high = middle;
  }
  return low;
}
