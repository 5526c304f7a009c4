import { faceCross } from '../../mesh/face';
import type { Mesh } from '../../mesh/mesh';
import { sameRows } from '../../mesh/sameRows';

/** A mesh by its places: what a file says that knows a vertex by nothing else. */
export interface ByPlace {
  /** xyz a place, each but once. */
  places: Float32Array;
  /** Three places a triangle; those of which two are one are left out. */
  corners: Uint32Array;
  /** Which triangle of the mesh each is. */
  face: Uint32Array;
}

/** The vertices of a mesh that are at one place, to the last bit, as one. */
export function byPlace({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): ByPlace {
  // −0 is where 0 is.
  const clean = positions.map((v) => v + 0);
  const first = sameRows(new Int32Array(clean.buffer), 3);
  const number = new Int32Array(first.length).fill(-1);
  const places: number[] = [];
  const corners: number[] = [];
  const face: number[] = [];
  const placeOf = (vertex: number): number => {
    const v = first[vertex];
    if (number[v] < 0) {
      number[v] = places.length / 3;
      places.push(clean[v * 3], clean[v * 3 + 1], clean[v * 3 + 2]);
    }
    return number[v];
  };
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [first[indices[i]], first[indices[i + 1]], first[indices[i + 2]]];
    if (a === b || b === c || c === a) continue;
    corners.push(placeOf(a), placeOf(b), placeOf(c));
    face.push(i / 3);
  }
  return {
    places: Float32Array.from(places),
    corners: Uint32Array.from(corners),
    face: Uint32Array.from(face),
  };
}

/** The unit normal of a face; all zero where it has no area. */
export function unitNormal(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  face: number,
): Float64Array {
  const n = new Float64Array(3);
  faceCross(positions, indices, face, n);
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  return l > 0 ? n.map((v) => v / l) : n;
}
