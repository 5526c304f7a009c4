import { cross, distance, dot, sub, type Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../bvhQuery';
import type { Place } from '../pin';
import { normalOn, placeOn, weightsOn, type TriMesh } from '../triMesh';
import { acrossSide } from './topology';

/** A line of places on a surface. Between neighbours it runs straight within one face, so it never leaves it. */
export interface LaidLine {
  /** A face and the weights of its second and third corner for each place. */
  face: Int32Array;
  weights: Float64Array;
  /** The face of each piece from place to place (either of two along an edge); -1 where the surface is not whole in between. */
  pieces: Int32Array;
  /** For each place that was asked for, its number along the line. */
  asked: Int32Array;
}

/**
 * Lays places onto a surface, each at its nearest, and joins neighbours over the faces in between: along the cut of
 * the surface with the plane through both places and their normals.
 * @param at xyz a place @returns null where the surface has no faces
 */
export function layLine(triMesh: TriMesh, at: ArrayLike<number>): LaidLine | null {
  const face: number[] = [];
  const weights: number[] = [];
  const pieces: number[] = [];
  const asked: number[] = [];
  const put = (p: Place) => {
    face.push(p.face);
    weights.push(p.u, p.v);
  };
  const hit = noHit();
  let last: Place | null = null;
  for (let o = 0; o + 2 < at.length; o += 3) {
    if (!nearestPlace(triMesh.tree(), at[o], at[o + 1], at[o + 2], Infinity, hit)) return null;
    const place = { face: hit.face, u: hit.u, v: hit.v };
    if (last) {
      const between = joinPlaces(triMesh, last, place);
      const hair = apart(triMesh, last, place) * HAIR * 100;
      // On an edge from the start: then the first piece lies in the face beyond, and there is none before it.
      let piece = face[face.length - 1];
      const near = (q: Place, to: Place) => apart(triMesh, q, to) <= hair;
      for (const q of between ?? []) {
        if (!near(q, last) && !near(q, place)) {
          pieces.push(piece);
          put(q);
        }
        if (!near(q, place)) piece = q.face;
      }
      pieces.push(between ? piece : -1);
    }
    asked.push(face.length);
    put(place);
    last = place;
  }
  return {
    face: Int32Array.from(face),
    weights: Float64Array.from(weights),
    pieces: Int32Array.from(pieces),
    asked: Int32Array.from(asked),
  };
}

function apart(triMesh: TriMesh, p: Place, q: Place): number {
  return distance(placeOn(triMesh, p.face, p.u, p.v), placeOn(triMesh, q.face, q.u, q.v));
}

/** Faces that one join may cross. Places lie closer together than that; round a hole there is no way at all. */
const MOST = 400;

/**
 * Crossings of edges between two places, each given on the face that it leads into; null where the cut meets a border.
 */
function joinPlaces(triMesh: TriMesh, from: Place, to: Place): Place[] | null {
  if (from.face === to.face) return [];
  // A cut along edges or through vertices would cross none of them: it goes a hair inside the faces at both ends.
  const a = inside(triMesh, from);
  const b = inside(triMesh, to);
  const way = sub(b, a);
  const n = normalOn(triMesh, from.face, from.u, from.v);
  const m = normalOn(triMesh, to.face, to.u, to.v);
  const plane = cross(way, [n[0] + m[0], n[1] + m[1], n[2] + m[2]]);
  const level = dot(plane, a);
  const out: Place[] = [];
  const topology = triMesh.topology();
  let face = from.face;
  let entered = -1;
  let here: Vec3 = a;
  for (let round = 0; round < MOST; round++) {
    const step = leave(triMesh, face, entered, plane, level, way, here);
    if (!step) return null;
    const next = acrossSide(topology, face, step.side);
    if (next < 0) return null;
    const edge = topology.sides[face * 3 + step.side];
    face = next;
    entered = [0, 1, 2].find((k) => topology.sides[next * 3 + k] === edge)!;
    here = step.at;
    const [u, v] = weightsOn(triMesh, face, here[0], here[1], here[2]);
    out.push({ face, u, v });
    if (face === to.face) return out;
    // Well past the place: it lies on another sheet.
    const over = dot(sub(here, b), way);
    if (over > 4 * dot(way, way)) return null;
  }
  return null;
}

/** Share of the way to its middle; crossings that come of it lie a hundred times as close to a place at the most. */
const HAIR = 1e-9;

/** A place drawn towards the middle of its face by a hair. */
function inside(triMesh: TriMesh, { face, u, v }: Place): Vec3 {
  const draw = (w: number) => w + (1 / 3 - w) * HAIR;
  return placeOn(triMesh, face, draw(u), draw(v));
}

/** The side by which the cut goes out of a face, the furthest on along the way; null where there is none. */
function leave(
  { positions: p, indices }: TriMesh,
  face: number,
  entered: number,
  plane: Vec3,
  level: number,
  way: Vec3,
  here: Vec3,
): { side: number; at: Vec3 } | null {
  let best: { side: number; at: Vec3 } | null = null;
  let furthest = -Infinity;
  for (let side = 0; side < 3; side++) {
    if (side === entered) continue;
    const i = indices[face * 3 + side] * 3;
    const j = indices[face * 3 + ((side + 1) % 3)] * 3;
    const d = plane[0] * p[i] + plane[1] * p[i + 1] + plane[2] * p[i + 2] - level;
    const e = plane[0] * p[j] + plane[1] * p[j + 1] + plane[2] * p[j + 2] - level;
    if (d > 0 === e > 0) continue;
    const w = d / (d - e);
    const at: Vec3 = [
      p[i] + (p[j] - p[i]) * w,
      p[i + 1] + (p[j + 1] - p[i + 1]) * w,
      p[i + 2] + (p[j + 2] - p[i + 2]) * w,
    ];
    const on = dot(sub(at, here), way);
    if (on > furthest) [furthest, best] = [on, { side, at }];
  }
  return best;
}
