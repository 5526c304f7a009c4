import { hypot } from '../../math/portable';
import type { Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../bvhQuery';
import { faceNormal, type TriMesh } from '../triMesh';
import type { BrushLine } from './schema';

/**
 * A stroke of the brush: a line of dabs on the material at rest, with the straight pieces between them. Everything is
 * in the frame of the surface at rest.
 */

/** How a stroke meets a place. What it holds is written over by the next. */
export interface StrokeMet {
  /** 1 in its middle, 0 at its radius, smooth between (3w² − 2w³). */
  cover: number;
  /** Where the piece that is nearest begins in the dabs, and which share of it is nearest. */
  from: number;
  share: number;
}

const met: StrokeMet = { cover: 0, from: 0, share: 0 };

/** The pieces of a stroke that are nearest to places: how far each is, squared, where it begins, which share of it. */
export class NearestPieces {
  readonly least: Float64Array;
  readonly from: Int32Array;
  readonly share: Float64Array;

  constructor(places: number) {
    this.least = new Float64Array(places).fill(Infinity);
    this.from = new Int32Array(places);
    this.share = new Float64Array(places);
  }
}

/**
 * Looks for a nearer piece than what was found of a place, among those that end at a dab from the number `first` on.
 * @param first where that dab begins in the list @param most what is as far, squared, is not nearer
 * @returns whether there is one
 */
export function nearerPiece(
  dabs: readonly number[],
  first: number,
  x: number,
  y: number,
  z: number,
  found: NearestPieces,
  i: number,
  most: number,
): boolean {
  let least = Math.min(found.least[i], most);
  let isNearer = false;
  for (let o = first; o + 2 < dabs.length; o += 3) {
    const from = Math.max(0, o - 3);
    const ax = dabs[from];
    const ay = dabs[from + 1];
    const az = dabs[from + 2];
    const bx = dabs[o] - ax;
    const by = dabs[o + 1] - ay;
    const bz = dabs[o + 2] - az;
    const px = x - ax;
    const py = y - ay;
    const pz = z - az;
    const long = bx * bx + by * by + bz * bz;
    const k = long > 0 ? Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / long)) : 0;
    const dx = px - k * bx;
    const dy = py - k * by;
    const dz = pz - k * bz;
    const d = dx * dx + dy * dy + dz * dz;
    if (d >= least) continue;
    found.least[i] = least = d;
    found.from[i] = from;
    found.share[i] = k;
    isNearer = true;
  }
  return isNearer;
}

/**
 * How much of a stroke there is at a place, whose nearest piece is known.
 * @param normals of the dabs, from {@link normalsAlong} @param normal at the place
 */
export function coverAt(
  { dabs, radius, softness }: BrushLine,
  normals: Float64Array,
  found: NearestPieces,
  i: number,
  normal: Vec3,
): number {
  const r = Math.sqrt(found.least[i]) / radius;
  if (!(r < 1)) return 0;
  const from = found.from[i];
  const share = found.share[i];
  const to = Math.min(from + 3, dabs.length - 3);
  let along = 0;
  for (let a = 0; a < 3; a++)
    along += normal[a] * (normals[from + a] * (1 - share) + normals[to + a] * share);
  if (along <= 0) return 0;
  const w = softness > 0 ? Math.min(1, (1 - r) / softness) : 1;
  return w * w * (3 - 2 * w);
}

const near = new NearestPieces(1);

/**
 * How a stroke meets a place. It reaches no farther than its radius, and nothing that faces away from its dabs: not the
 * other side of a thin wall.
 * @param normals of the dabs, from {@link normalsAlong} @param normal at the place
 */
export function meetStroke(
  stroke: BrushLine,
  normals: Float64Array,
  x: number,
  y: number,
  z: number,
  normal: Vec3,
): StrokeMet {
  near.least[0] = Infinity;
  near.from[0] = near.share[0] = 0;
  nearerPiece(stroke.dabs, 0, x, y, z, near, 0, Infinity);
  met.cover = coverAt(stroke, normals, near, 0, normal);
  met.from = near.from[0];
  met.share = near.share[0];
  return met;
}

interface Along {
  dabs: readonly number[];
  rest: TriMesh;
  normals: Float64Array;
}
const known = new WeakMap<readonly number[], Along>();
/** Of each surface the last that were looked for: a stroke that is being drawn goes on from there. */
const latest = new WeakMap<TriMesh, Along>();
const hit = noHit();

/** How many numbers of a list of dabs another one begins with; 0 where it does not go on from it. */
export const goesOnFrom = (dabs: readonly number[], was: readonly number[]): number =>
  was.length <= dabs.length && was.every((v, i) => v === dabs[i]) ? was.length : 0;

/** The surface's normal at rest at each dab, x, y, z one after the other. */
export function normalsAlong({ dabs }: BrushLine, rest: TriMesh): Float64Array {
  const have = known.get(dabs);
  if (have?.rest === rest) return have.normals;
  const normals = new Float64Array(dabs.length);
  const last = latest.get(rest);
  const first = last ? goesOnFrom(dabs, last.dabs) : 0;
  if (first > 0) normals.set(last!.normals);
  for (let o = first; o + 2 < dabs.length; o += 3)
    if (nearestPlace(rest.tree(), dabs[o], dabs[o + 1], dabs[o + 2], Infinity, hit))
      normals.set(faceNormal(rest, hit.face), o);
  const along = { dabs, rest, normals };
  known.set(dabs, along);
  latest.set(rest, along);
  return normals;
}

/**
 * Which way a stroke runs where it was met: from the dab before to the dab after, so that it bends evenly. Null where
 * it does not run: a single dab.
 */
export function strokeWay({ dabs }: BrushLine, { from, share }: StrokeMet): Vec3 | null {
  const last = dabs.length - 3;
  const at = from + (share >= 0.5 ? 3 : 0);
  const [a, b] = [Math.max(0, at - 3), Math.min(last, at + 3)];
  const way = [0, 1, 2].map((k) => dabs[b + k] - dabs[a + k]) as Vec3;
  const l = hypot(...way);
  return l > 1e-9 ? [way[0] / l, way[1] / l, way[2] / l] : null;
}

/** Least and greatest corner of what a stroke can reach. @param first where the first dab that counts begins in the list */
export function boxOfStroke({ dabs, radius }: BrushLine, first = 0): [number[], number[]] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = first; i < dabs.length; i++) {
    low[i % 3] = Math.min(low[i % 3], dabs[i] - radius);
    high[i % 3] = Math.max(high[i % 3], dabs[i] + radius);
  }
  return [low, high];
}

/** Whether a place is within least and greatest x, y, z, its sides too. */
export const inBox = ([low, high]: [number[], number[]], x: number, y: number, z: number): boolean =>
  x >= low[0] && x <= high[0] && y >= low[1] && y <= high[1] && z >= low[2] && z <= high[2];
