import type {
  EvaluatedArrangement,
  MaskResult,
  PathResult,
  SceneResult,
  SurfaceResult,
} from '@/core/evaluate/scene';
import type { LinkResult } from '@/core/evaluate/links/linked';
import { countStates, type Finding, type GapReason, type Placements } from '@/core/arrange/result';
import { keptBounds, type Bounds, type Mesh } from '@/core/mesh/mesh';
import { beforeAgain, settledRowsOf } from '@/core/arrange/settledRows';
import { dequal } from 'dequal/lite';
import { widen } from './blocks';
import { batchesOf, instanceOf } from './drawing';
import { writeMatrix, type DrawBatch } from './drawBatch';

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
  /** Of that mesh, in its own frame. */
  box?: Bounds;
  matrix: Float64Array;
  /** That things can stand on: of a shell its outer side's, which are its first. */
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
  /** For each of the rows what its place has of them, and its instance matrix. */
  values: RowValues;
  matrices: Float32Array;
}

/** Nodes whose results are others than before, and the ids of those that are no more. */
export interface Served {
  surfaces: ServedSurface[];
  paths: PathResult[];
  arrangements: ServedArrangement[];
  masks: MaskResult[];
  /** Arrangements of which only some rows are others. */
  rows: ServedRows[];
  gone: string[];
  /** Bounds in each prop's own space, metres; absent where they are the same as before. */
  propBounds?: Record<string, Bounds>;
  /** What became of links; absent where that is the same as before. */
  links?: readonly LinkResult[];
  /** Milliseconds that the work took. */
  ms: number;
  /** What has not come to its moment yet: asking again goes on with it. */
  unfinished?: SceneResult['unfinished'];
}

/** What the other side has been told: keys of results, by node. */
export class Told {
  private keys = new Map<string, string>();
  private faces = new Map<string, string>();
  private arranged = new Map<string, EvaluatedArrangement>();
  private propBounds: Record<string, Bounds> | undefined;
  private links: readonly LinkResult[] | undefined;
  /** The nodes of the last result: the same object in its place has been told. */
  private last: Omit<SceneResult, 'propBounds' | 'links' | 'unfinished'> = {
    masks: [],
    surfaces: [],
    paths: [],
    arrangements: [],
  };

  /** What there is to tell of a result; afterwards it has been told. */
  tell({ surfaces, paths, arrangements, masks, links, propBounds }: SceneResult): Omit<Served, 'ms'> {
    const isNew = ({ id, key }: { id: string; key: string }) => {
      if (this.keys.get(id) === key) return false;
      this.keys.set(id, key);
      return true;
    };
    const { last } = this;
    const whole: ServedArrangement[] = [];
    const rows: ServedRows[] = [];
    for (const r of othersOf(arrangements, last.arrangements)) {
      const told = this.arranged.get(r.id);
      if (!isNew(r)) continue;
      const some = told && changedRows(r, told);
      if (some) rows.push(some);
      else whole.push({ ...r, batches: batchesOf(r), counts: countStates(r.placements) });
      this.arranged.set(r.id, r);
    }
    const served = {
      rows,
      surfaces: othersOf(surfaces, last.surfaces)
        .filter(isNew)
        .map((r) => this.surface(r)),
      paths: othersOf(paths, last.paths).filter(isNew),
      arrangements: whole,
      masks: othersOf(masks, last.masks).filter(isNew),
    };
    this.last = { surfaces, paths, arrangements, masks };
    const all = [surfaces, paths, arrangements, masks];
    const here = all.reduce((sum, list) => sum + list.length, 0);
    const gone = here === this.keys.size ? [] : this.forget(all.flat());
    const others = {
      ...(links !== this.links && { links }),
      ...(propBounds !== this.propBounds && { propBounds }),
    };
    [this.links, this.propBounds] = [links, propBounds];
    return { ...served, gone, ...others };
  }

  /** @returns ids of those that were told and are not there any more */
  private forget(results: { id: string }[]): string[] {
    const here = new Set(results.map((r) => r.id));
    const gone = [...this.keys.keys()].filter((id) => !here.has(id));
    for (const id of gone) {
      this.keys.delete(id);
      this.faces.delete(id);
      this.arranged.delete(id);
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
    skin = mesh,
    undeformed,
  }: SurfaceResult): ServedSurface {
    const faces = (skin?.indices.length ?? 0) / 3;
    const out: ServedSurface = { id, key, facesKey, plain, matrix, findings, faces };
    if (plain || !mesh || !undeformed) {
      this.faces.delete(id);
      return mesh ? { ...out, box: keptBounds(mesh) } : out;
    }
    const has = this.faces.get(id) === facesKey;
    this.faces.set(id, facesKey);
    const { positions, normals, ...rest } = mesh;
    return { ...out, positions, normals, ...(!has && { rest: { ...rest, undeformed } }) };
  }
}

const othersOf = <T>(list: T[], last: readonly T[]): T[] =>
  list === last ? [] : list.filter((r, i) => r !== last[i]);

/** More rows than one in so many are told with all the others. */
const FEW = 4;

/**
 * Of what is settled once, the rows that can be others than before: those that were settled anew. Null where other rows
 * stand; undefined where that is not known.
 */
function rowsToLookAt(p: Placements, old: Placements): number[] | null | undefined {
  const [settled, was] = [settledRowsOf(p), settledRowsOf(old)];
  if (!settled || !was) return undefined;
  const again = settled.of === was.of ? undefined : beforeAgain(settled.of);
  if (settled.of !== was.of && again?.was !== was.of) return undefined;
  const { rows } = settled;
  if (rows.length !== was.rows.length || rows.some((row, i) => row !== was.rows[i])) return null;
  const out: number[] = [];
  let i = 0;
  for (const row of again?.rows ?? []) {
    while (i < rows.length && rows[i] < row) i++;
    if (rows[i] === row) out.push(i);
  }
  return out;
}

/** The rows of a result that are others than was told, on their own; null where it is more than these that changed. */
function changedRows(now: EvaluatedArrangement, told: EvaluatedArrangement): ServedRows | null {
  const { id, key, placements: p } = now;
  const old = told.placements;
  const candidates = rowsToLookAt(p, old);
  if (candidates === null) return null;
  // Where they lie in the textures of surfaces is told with all of them.
  if (now.stamps || told.stamps) return null;
  const next = now.rows && now.since === told.key;
  // What was told has been written over since, by more than one step.
  if (!next && (p.position === old.position || !sameAround(now, told))) return null;
  const rows = next ? now.rows! : rowsThatDiffer(p, old, candidates);
  if (!rows) return null;
  const matrices = new Float32Array(rows.length * 16);
  rows.forEach((row, k) => writeMatrix(p, row, matrices, k * 16));
  return { id, key, rows, values: rowValues(p, rows), matrices };
}

/** Whether a row is drawn among others than before, or not any more. */
const drawnElsewhere = (p: Placements, old: Placements, i: number): boolean =>
  p.slot[i] !== old.slot[i] ||
  p.prop[i] !== old.prop[i] ||
  p.state[i] !== old.state[i] ||
  p.scale[i * 3] < 0 !== old.scale[i * 3] < 0;

/** Whether two results of one arrangement can differ in nothing but the values of their rows. */
function sameAround(now: EvaluatedArrangement, told: EvaluatedArrangement): boolean {
  const [p, old] = [now.placements, told.placements];
  const shaped = (r: EvaluatedArrangement) =>
    r.sheet !== undefined ||
    r.lines !== undefined ||
    r.stock !== undefined ||
    r.inside !== undefined ||
    r.placements.shape !== undefined ||
    r.placements.pose !== undefined;
  return (
    p.count === old.count &&
    !shaped(now) &&
    !shaped(told) &&
    !p.tint === !old.tint &&
    !p.before === !old.before &&
    dequal(p.props, old.props) &&
    dequal([now.facts, now.area, now.parts, now.findings], [told.facts, told.area, told.parts, told.findings])
  );
}

/**
 * Rows whose values are others, rising; null where they are many, or drawn among others than before.
 * @param candidates the only ones that can be; all of them where that is not known
 */
function rowsThatDiffer(p: Placements, old: Placements, candidates?: readonly number[]): Int32Array | null {
  const rows: number[] = [];
  const before = fieldsOf(old);
  const fields = fieldsOf(p).map(([, now, size], f) => ({ now, was: before[f][1], size }));
  const count = candidates?.length ?? p.count;
  for (let k = 0; k < count; k++) {
    const i = candidates ? candidates[k] : k;
    if (drawnElsewhere(p, old, i)) return null;
    if (!fields.some(({ now, was, size }) => differs(now, was, i * size, size))) continue;
    rows.push(i);
    if (rows.length * FEW > p.count) return null;
  }
  return Int32Array.from(rows);
}

function differs(a: RowArray, b: RowArray, from: number, size: number): boolean {
  for (let o = from; o < from + size; o++) if (a[o] !== b[o]) return true;
  return false;
}

type RowArray = Float64Array | Float32Array;
type RowValues = Record<string, RowArray>;

/** The arrays of placements that hold values of rows, by name, with how many numbers a row has in each. */
function fieldsOf(p: Placements): [name: string, values: RowArray, size: number][] {
  return [
    ['position', p.position, 3],
    ['rotation', p.rotation, 4],
    ['scale', p.scale, 3],
    ['s', p.s, 1],
    ...(p.tint ? ([['tint', p.tint, 3]] as [string, RowArray, number][]) : []),
    ...(p.before
      ? ([
          ['before.position', p.before.position, 3],
          ['before.rotation', p.before.rotation, 4],
        ] as [string, RowArray, number][])
      : []),
  ];
}

const rowValues = (p: Placements, rows: Int32Array): RowValues =>
  Object.fromEntries(
    fieldsOf(p).map(([name, from, size]) => {
      const to =
        from instanceof Float32Array
          ? new Float32Array(rows.length * size)
          : new Float64Array(rows.length * size);
      rows.forEach((row, k) => to.set(from.subarray(row * size, (row + 1) * size), k * size));
      return [name, to];
    }),
  );

/**
 * A result with the rows that changed. Its arrays are the same ones, written over: of an earlier result only the
 * latest is looked at.
 */
export function withRows(
  have: ServedArrangement,
  { key, rows, values, matrices }: ServedRows,
): ServedArrangement {
  for (const [name, to, size] of fieldsOf(have.placements))
    rows.forEach((row, k) => to.set(values[name].subarray(k * size, (k + 1) * size), row * size));
  const batches = have.batches.map((batch) => {
    const instances: number[] = [];
    rows.forEach((row, k) => {
      const i = instanceOf(batch, row);
      if (i < 0) return;
      instances.push(i);
      batch.matrices.set(matrices.subarray(k * 16, (k + 1) * 16), i * 16);
      if (batch.blocks) widen(batch.blocks, batch.matrices, i);
      batch.tints?.set(values.tint.subarray(k * 3, (k + 1) * 3), i * 3);
    });
    return { ...batch, changed: { times: (batch.changed?.times ?? 0) + 1, instances } };
  });
  return { ...have, key, placements: { ...have.placements }, batches };
}
