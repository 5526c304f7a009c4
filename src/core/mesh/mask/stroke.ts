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

/** Which piece of a stroke is nearest to a place. */
export interface NearestPiece {
  /** Its distance, squared. */
  least: number;
  from: number;
  share: number;
}

/**
 * Looks for a nearer piece than what was found, among those that end at a dab from the number `first` on.
 * @param first where that dab begins in the list @returns whether there is one
 */
export function nearerPiece(
  dabs: readonly number[],
  first: number,
  x: number,
  y: number,
  z: number,
  near: NearestPiece,
): boolean {
  let isNearer = false;
  for (let o = first; o + 2 < dabs.length; o += 3) {
    const from = Math.max(0, o - 3);
    const [ax, ay, az] = [dabs[from], dabs[from + 1], dabs[from + 2]];
    const [bx, by, bz] = [dabs[o] - ax, dabs[o + 1] - ay, dabs[o + 2] - az];
    const [px, py, pz] = [x - ax, y - ay, z - az];
    const long = bx * bx + by * by + bz * bz;
    const k = long > 0 ? Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / long)) : 0;
    const [dx, dy, dz] = [px - k * bx, py - k * by, pz - k * bz];
    const d = dx * dx + dy * dy + dz * dz;
    if (d >= near.least) continue;
    near.least = d;
    near.from = from;
    near.share = k;
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
  { least, from, share }: NearestPiece,
  normal: Vec3,
): number {
  const r = Math.sqrt(least) / radius;
  if (!(r < 1)) return 0;
  const to = Math.min(from + 3, dabs.length - 3);
  let along = 0;
  for (let a = 0; a < 3; a++)
    along += normal[a] * (normals[from + a] * (1 - share) + normals[to + a] * share);
  if (along <= 0) return 0;
  const w = softness > 0 ? Math.min(1, (1 - r) / softness) : 1;
  return w * w * (3 - 2 * w);
}

const near: NearestPiece = { least: Infinity, from: 0, share: 0 };

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
  near.least = Infinity;
  near.from = near.share = 0;
  nearerPiece(stroke.dabs, 0, x, y, z, near);
  met.cover = coverAt(stroke, normals, near, normal);
  met.from = near.from;
  met.share = near.share;
  return met;
}

const known = new WeakMap<readonly number[], { rest: TriMesh; normals: Float64Array }>();
const hit = noHit();

/** The surface's normal at rest at each dab, x, y, z one after the other. */
export function normalsAlong({ dabs }: BrushLine, rest: TriMesh): Float64Array {
  const have = known.get(dabs);
  if (have?.rest === rest) return have.normals;
  const normals = new Float64Array(dabs.length);
  for (let o = 0; o + 2 < dabs.length; o += 3)
    if (nearestPlace(rest.tree(), dabs[o], dabs[o + 1], dabs[o + 2], Infinity, hit))
      normals.set(faceNormal(rest, hit.face), o);
  known.set(dabs, { rest, normals });
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

export const inBox = ([low, high]: [number[], number[]], x: number, y: number, z: number): boolean =>
  x >= low[0] && x <= high[0] && y >= low[1] && y <= high[1] && z >= low[2] && z <= high[2];
