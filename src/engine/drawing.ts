import { membersOf, type Inside } from '@/core/arrange/inside';
import type { EvaluatedArrangement } from '@/core/evaluate/scene';
import { STATE, type Placements } from '@/core/arrange/result';
import { isMirroring } from '@/core/math/affine';
import { settledRowsOf, stillHolds } from '@/core/arrange/settledRows';
import { BLOCK, blocksOf } from './blocks';
import { writeMatrix, type DrawBatch } from './drawBatch';
import { settledBatches } from './settledBatches';

/**
 * Matrices of everything placed, by prop, mirrored ones apart.
 * @param laid by row: whether it is drawn into a surface, to be picked alone
 */
export function drawBatches(p: Placements, laid?: Uint8Array): DrawBatch[] {
  const settled = !laid && !p.shape && !p.pose && p.count > BLOCK ? settledRowsOf(p) : undefined;
  if (settled && stillHolds(settled.of)) return settledBatches(p, settled);
  const kinds = p.props.length * 2;
  const shapes = p.bent?.length ?? 0;
  const poses = p.posed?.length ?? 0;
  const shapeAt = (i: number) => (p.shape ? p.shape[i] : -1);
  const poseAt = (i: number) => (p.pose ? p.pose[i] : -1);
  // Those of a shape of their own come after the plain ones, and then those in a pose.
  const kindOf = (i: number) => {
    if (laid?.[i]) return shown + p.prop[i] * 2 + (p.scale[i * 3] < 0 ? 1 : 0);
    if (shapeAt(i) >= 0) return kinds + shapeAt(i);
    const handed = p.scale[i * 3] < 0 ? 1 : 0;
    return poseAt(i) >= 0 ? kinds + shapes + poseAt(i) * 2 + handed : p.prop[i] * 2 + handed;
  };
  const shown = kinds + shapes + poses * 2;
  const all = laid ? shown + kinds : shown;
  const counts = new Uint32Array(all);
  const propOf = new Int32Array(all).fill(-1);
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const k = kindOf(i);
    counts[k]++;
    propOf[k] = p.prop[i];
  }
  const batches = Array.from(counts, (count, k): DrawBatch => ({
    prop: p.props[propOf[k]],
    // Those after the shapes are two by two, too.
    mirrored: k < kinds ? k % 2 === 1 : k >= kinds + shapes && (k - kinds - shapes) % 2 === 1,
    ...(k >= kinds && k < kinds + shapes && { shape: k - kinds }),
    ...(k >= kinds + shapes && k < shown && { pose: (k - kinds - shapes) >> 1 }),
    ...(k >= shown && { laid: true as const }),
    matrices: new Float32Array(count * 16),
    rows: new Uint32Array(count),
    ...(p.tint && { tints: new Float32Array(count * 3) }),
  }));
  const at = new Uint32Array(all);
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const k = kindOf(i);
    const n = at[k]++;
    batches[k].rows[n] = i;
    writeMatrix(p, i, batches[k].matrices, n * 16, batches[k].shape !== undefined);
    if (p.tint) batches[k].tints!.set(p.tint.subarray(i * 3, i * 3 + 3), n * 3);
  }
  for (const b of batches) if (b.rows.length > BLOCK) b.blocks = blocksOf(b);
  return batches.filter((b) => b.rows.length > 0);
}

/** What is drawn of an arrangement: what it has placed, and in the place of bundles what their copies hold. */
export function batchesOf({
  placements,
  inside,
  stamps,
}: Pick<EvaluatedArrangement, 'placements' | 'inside' | 'stamps'>): DrawBatch[] {
  const own = drawBatches(placements, stamps?.laid);
  if (!inside) return own;
  const bundles = new Set(Array.from(inside.copy, (row) => placements.prop[row]));
  const isBundle = (id: string) => bundles.has(placements.props.indexOf(id));
  return [...own.filter((b) => !isBundle(b.prop)), ...insideBatches(inside)];
}

/** Matrices of what copies of bundles hold, by prop; its rows are those of the copies. */
function insideBatches(inside: Inside): DrawBatch[] {
  const groups = new Map<string, number[]>();
  // What of bundles a row is: those of one nested copy share theirs.
  const ways = new Map<string, number>();
  const wayAt = new Int32Array(inside.count);
  for (let i = 0; i < inside.count; i++) {
    const above = inside.parent[i] < 0 ? -1 : wayAt[inside.parent[i]];
    const way = `${above} ${inside.member[i]}`;
    let n = ways.get(way);
    if (n === undefined) ways.set(way, (n = ways.size));
    wayAt[i] = n;
    if (inside.bundle[i]) continue;
    const shape = inside.shape?.[i] ?? -1;
    const pose = inside.pose?.[i] ?? -1;
    const key = `${inside.prop[i]} ${shape} ${shape < 0 && isMirroring(inside.matrix, i * 16) ? 1 : 0} ${pose} ${n}`;
    const list = groups.get(key);
    if (list) list.push(i);
    else groups.set(key, [i]);
  }
  return [...groups].map(([key, list]) => {
    const [prop, shape, mirrored, pose] = key.split(' ').map(Number);
    const batch: DrawBatch = {
      prop: inside.props[prop],
      mirrored: mirrored === 1,
      within: Uint32Array.from(list),
      of: membersOf(inside, list[0]),
      ...(shape >= 0 && { shape }),
      ...(pose >= 0 && { pose }),
      matrices: new Float32Array(list.length * 16),
      rows: Uint32Array.from(list, (i) => inside.copy[i]),
      ...(inside.tint && { tints: new Float32Array(list.length * 3) }),
    };
    list.forEach((i, k) => {
      for (let a = 0; a < 16; a++)
        // A mirrored one's mesh is mirrored left to right already.
        batch.matrices[k * 16 + a] = inside.matrix[i * 16 + a] * (mirrored && a < 4 ? -1 : 1);
      if (inside.tint) batch.tints!.set(inside.tint.subarray(i * 3, i * 3 + 3), k * 3);
    });
    if (list.length > BLOCK) batch.blocks = blocksOf(batch);
    return batch;
  });
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

/** Which instances of a batch a row is: of a copy of a bundle there may be several. */
export function instancesOf(batch: DrawBatch, row: number): number[] {
  if (!batch.within) {
    const i = instanceOf(batch, row);
    return i < 0 ? [] : [i];
  }
  const out: number[] = [];
  batch.rows.forEach((r, i) => r === row && out.push(i));
  return out;
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
