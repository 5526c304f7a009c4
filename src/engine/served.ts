import type { EvaluatedArrangement, PathResult, SceneResult, SurfaceResult } from '@/core/evaluate/scene';
import { countStates, type Finding, type GapReason, type Placements } from '@/core/arrange/result';
import type { Bounds, Mesh } from '@/core/mesh/mesh';
import { drawBatches, writeMatrix, type DrawBatch } from './drawing';

/** Results on their way to the side that shows them: only what that does not have yet. */

/** An arrangement's result with what the view draws from it. */
export interface ServedArrangement extends EvaluatedArrangement {
  batches: DrawBatch[];
  counts: Record<GapReason, number>;
}

/** A surface as the view draws it; big arrays only where the client does not have them yet. */
export interface ServedSurface {
  id: string;
  key: string;
  facesKey: string;
  /** Drawn from the mesh it was brought in with. */
  plain: boolean;
  matrix: Float64Array;
  faces: number;
  /** What came of it, in its own frame: vertices, and faces with their looks. Absent where it is plain. */
  positions?: Float32Array;
  normals?: Float32Array;
  rest?: Omit<Mesh, 'positions' | 'normals'> & { undeformed: Float32Array };
  findings: Finding[];
}

/** Some rows of an arrangement that are others; the rest of it is as it was told before. */
export interface ServedRows {
  id: string;
  key: string;
  rows: Int32Array;
  /** For each of the rows: foot, rotation, factor per axis, tint; and its instance matrix. */
  position: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  tint?: Float32Array;
  matrices: Float32Array;
}

/** Nodes whose results are others than before, and the ids of those that are no more. */
export interface Served {
  surfaces: ServedSurface[];
  paths: PathResult[];
  arrangements: ServedArrangement[];
  /** Arrangements of which only some rows are others. */
  rows: ServedRows[];
  gone: string[];
  /** Bounds in each prop's own space, metres; absent where they are the same as before. */
  propBounds?: Record<string, Bounds>;
  /** Milliseconds that the work took. */
  ms: number;
}

/** What the other side has been told: keys of results, by node. */
export class Told {
  private keys = new Map<string, string>();
  private faces = new Map<string, string>();
  private placed = new Map<string, Placements>();
  private propBounds: Record<string, Bounds> | undefined;

  /** What there is to tell of a result; afterwards it has been told. */
  tell({ surfaces, paths, arrangements, propBounds }: SceneResult): Omit<Served, 'ms'> {
    const isNew = ({ id, key }: { id: string; key: string }) => {
      if (this.keys.get(id) === key) return false;
      this.keys.set(id, key);
      return true;
    };
    const whole: ServedArrangement[] = [];
    const rows: ServedRows[] = [];
    for (const r of arrangements) {
      const told = this.keys.get(r.id);
      if (!isNew(r)) continue;
      const some = r.since === told ? changedRows(r, this.placed.get(r.id)) : null;
      if (some) rows.push(some);
      else whole.push({ ...r, batches: drawBatches(r.placements), counts: countStates(r.placements) });
      this.placed.set(r.id, r.placements);
    }
    const served = {
      rows,
      surfaces: surfaces.filter(isNew).map((r) => this.surface(r)),
      paths: paths.filter(isNew),
      arrangements: whole,
    };
    const here = surfaces.length + paths.length + arrangements.length;
    const gone = here === this.keys.size ? [] : this.forget([surfaces, paths, arrangements].flat());
    if (propBounds === this.propBounds) return { ...served, gone };
    this.propBounds = propBounds;
    return { ...served, gone, propBounds };
  }

  /** @returns ids of those that were told and are not there any more */
  private forget(results: { id: string }[]): string[] {
    const here = new Set(results.map((r) => r.id));
    const gone = [...this.keys.keys()].filter((id) => !here.has(id));
    for (const id of gone) {
      this.keys.delete(id);
      this.faces.delete(id);
      this.placed.delete(id);
    }
    return gone;
  }

  private surface({
    id,
    key,
    facesKey,
    plain,
    matrix,
    findings,
    mesh,
    undeformed,
  }: SurfaceResult): ServedSurface {
    const faces = (mesh?.indices.length ?? 0) / 3;
    const out: ServedSurface = { id, key, facesKey, plain, matrix, findings, faces };
    if (plain || !mesh || !undeformed) {
      this.faces.delete(id);
      return out;
    }
    const has = this.faces.get(id) === facesKey;
    this.faces.set(id, facesKey);
    const { positions, normals, ...rest } = mesh;
    return { ...out, positions, normals, ...(!has && { rest: { ...rest, undeformed } }) };
  }
}

/** The rows that a result says are others, on their own; null where one of them is drawn among others than before. */
function changedRows(
  { id, key, rows, placements: p }: EvaluatedArrangement,
  old?: Placements,
): ServedRows | null {
  if (!rows || !old || p.shape) return null;
  const mirrored = (q: Placements, i: number) => q.scale[i * 3] < 0;
  for (const i of rows)
    if (p.prop[i] !== old.prop[i] || p.state[i] !== old.state[i] || mirrored(p, i) !== mirrored(old, i))
      return null;
  const take = <T extends Float64Array | Float32Array>(from: T, size: number, to: T): T => {
    rows.forEach((row, k) => to.set(from.subarray(row * size, (row + 1) * size), k * size));
    return to;
  };
  const matrices = new Float32Array(rows.length * 16);
  rows.forEach((row, k) => writeMatrix(p, row, matrices, k * 16));
  return {
    id,
    key,
    rows,
    position: take(p.position, 3, new Float64Array(rows.length * 3)),
    rotation: take(p.rotation, 4, new Float64Array(rows.length * 4)),
    scale: take(p.scale, 3, new Float64Array(rows.length * 3)),
    ...(p.tint && { tint: take(p.tint, 3, new Float32Array(rows.length * 3)) }),
    matrices,
  };
}

/**
 * A result with the rows that changed. Its arrays are the same ones, written over: of an earlier result only the
 * latest is looked at.
 */
export function withRows(have: ServedArrangement, changed: ServedRows): ServedArrangement {
  const { key, rows } = changed;
  const { position, rotation, scale, tint } = have.placements;
  const put = <T extends Float64Array | Float32Array>(to: T, size: number, from: T) =>
    rows.forEach((row, k) => to.set(from.subarray(k * size, (k + 1) * size), row * size));
  put(position, 3, changed.position);
  put(rotation, 4, changed.rotation);
  put(scale, 3, changed.scale);
  if (tint && changed.tint) put(tint, 3, changed.tint);
  const batches = have.batches.map((batch) => {
    const instances: number[] = [];
    rows.forEach((row, k) => {
      const i = placeIn(batch.rows, row);
      if (i < 0) return;
      instances.push(i);
      batch.matrices.set(changed.matrices.subarray(k * 16, (k + 1) * 16), i * 16);
      batch.tints?.set(changed.tint!.subarray(k * 3, (k + 1) * 3), i * 3);
    });
    return { ...batch, changed: { times: (batch.changed?.times ?? 0) + 1, instances } };
  });
  return { ...have, key, placements: { ...have.placements }, batches };
}

/** Where a row is in a rising list of rows; -1 where it is not. */
function placeIn(rows: Uint32Array, row: number): number {
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rows[middle] < row) low = middle + 1;
    else high = middle;
  }
  return rows[low] === row ? low : -1;
}
