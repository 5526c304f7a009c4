import type { Vec3 } from '../../math/vec3';
import { firstHit, nearestPlace, noHit } from '../bvhQuery';
import { faceNormal, normalOn, placeOn, type TriMesh } from '../triMesh';

/** A surface as masks read it. */
export interface MaskGround {
  id: string;
  /** At rest, in its own frame: the material that is painted on, with its texture coordinates. */
  rest: TriMesh;
  /** In the scene, the same faces: as it is before anything moves it, and before what a mask itself deforms. */
  read: TriMesh;
  /** In the scene as it is now, the same faces: where places are looked for that are known by where they are. */
  now?: TriMesh;
}

/** Places that masks give numbers to: one entry a place, or three: x, y, z. They are never written over. */
export interface MaskPlaces {
  count: number;
  /** Metres in the scene, and unit normals there. */
  position: Float64Array;
  normal: Float64Array;
  grounds: readonly MaskGround[];
  /** Which of the grounds each is on; −1: on none. */
  ground: Int32Array;
  /** The face there, and the weights of its second and third corner. */
  face: Int32Array;
  u: Float64Array;
  v: Float64Array;
}

const room = (count: number, grounds: readonly MaskGround[]): MaskPlaces => ({
  count,
  position: new Float64Array(count * 3),
  normal: new Float64Array(count * 3),
  grounds,
  ground: new Int32Array(count).fill(-1),
  face: new Int32Array(count),
  u: new Float64Array(count),
  v: new Float64Array(count),
});

function put(out: MaskPlaces, i: number, g: number, face: number, u: number, v: number): void {
  const { read } = out.grounds[g];
  out.ground[i] = g;
  out.face[i] = face;
  out.u[i] = u;
  out.v[i] = v;
  out.position.set(placeOn(read, face, u, v), i * 3);
  out.normal.set(normalOn(read, face, u, v), i * 3);
}

/** Places that are known by face and weights. @param ground which of the grounds each is on */
export function placesOn(
  grounds: readonly MaskGround[],
  ground: ArrayLike<number>,
  face: ArrayLike<number>,
  u: ArrayLike<number>,
  v: ArrayLike<number>,
): MaskPlaces {
  const out = room(face.length, grounds);
  for (let i = 0; i < out.count; i++) put(out, i, ground[i], face[i], u[i], v[i]);
  return out;
}

/**
 * Places in the scene, each read on the place of the grounds that is nearest to it; where there is no ground they lie
 * level and on none.
 * @param position xyz a place
 */
export function placesNear(position: Float64Array, grounds: readonly MaskGround[]): MaskPlaces {
  const out = room(position.length / 3, grounds);
  const hit = noHit();
  for (let i = 0; i < out.count; i++) {
    const at = position.subarray(i * 3, i * 3 + 3);
    let best = { distance: Infinity, g: -1, face: 0, u: 0, v: 0 };
    grounds.forEach(({ read, now = read }, g) => {
      if (nearestPlace(now.tree(), at[0], at[1], at[2], best.distance, hit) && hit.t < best.distance)
        best = { distance: hit.t, g, face: hit.face, u: hit.u, v: hit.v };
    });
    if (best.g >= 0) put(out, i, best.g, best.face, best.u, best.v);
    else out.normal[i * 3 + 1] = 1;
    // On what moves it is read where that was at first, so that it does not change while it moves.
    const moved = best.g >= 0 && grounds[best.g].now && grounds[best.g].now !== grounds[best.g].read;
    if (!moved) out.position.set(at, i * 3);
  }
  return out;
}

/**
 * Places that land: each read on what is straight below it, from so many metres above it on; where nothing is, on what
 * is nearest.
 */
export function placesBelow(
  position: Float64Array,
  grounds: readonly MaskGround[],
  above: number,
): MaskPlaces {
  const out = placesNear(position, grounds);
  const hit = noHit();
  for (let i = 0; i < out.count; i++) {
    const [x, y, z] = position.subarray(i * 3, i * 3 + 3);
    let best = Infinity;
    grounds.forEach(({ read, now = read }, g) => {
      if (!firstHit(now.tree(), x, y + above, z, 0, -1, 0, 0, best, hit) || hit.t >= best) return;
      best = hit.t;
      put(out, i, g, hit.face, hit.u, hit.v);
    });
  }
  return out;
}

/** The vertices of a surface as places, each on one of its faces; those of no face lie on none. */
export function verticesOf(ground: MaskGround): MaskPlaces {
  const { read } = ground;
  const out = room(read.positions.length / 3, [ground]);
  read.indices.forEach((vertex, corner) => {
    const k = corner % 3;
    out.ground[vertex] = 0;
    out.face[vertex] = (corner - k) / 3;
    out.u[vertex] = k === 1 ? 1 : 0;
    out.v[vertex] = k === 2 ? 1 : 0;
  });
  out.position.set(read.positions);
  for (let i = 0; i < out.count; i++) {
    const n = read.normals.subarray(i * 3, i * 3 + 3);
    const plain = n[0] === 0 && n[1] === 0 && n[2] === 0;
    out.normal.set(plain && out.ground[i] === 0 ? faceNormal(read, out.face[i]) : n, i * 3);
  }
  return out;
}

/** The place on the material at rest, in the frame of its surface. */
export const restPlace = ({ grounds, ground, face, u, v }: MaskPlaces, i: number): Vec3 =>
  placeOn(grounds[ground[i]].rest, face[i], u[i], v[i]);

/** Some of the places, as places of their own. @param rows which, in order */
export function somePlaces(from: MaskPlaces, rows: Uint32Array): MaskPlaces {
  const out = room(rows.length, from.grounds);
  rows.forEach((row, i) => {
    out.ground[i] = from.ground[row];
    out.face[i] = from.face[row];
    out.u[i] = from.u[row];
    out.v[i] = from.v[row];
    for (let a = 0; a < 3; a++) {
      out.position[i * 3 + a] = from.position[row * 3 + a];
      out.normal[i * 3 + a] = from.normal[row * 3 + a];
    }
  });
  return out;
}
