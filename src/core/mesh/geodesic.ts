import { faceNormal, weightsOn, type TriMesh } from './triMesh';
import { acrossSide } from './lines/topology';

/** A place on a surface and a direction along it, while walking straight on over the faces. */
export interface Geodesic {
  face: number;
  /** Weights of the face's second and third corner. */
  u: number;
  v: number;
  /** Unit direction in the face's plane. */
  dx: number;
  dy: number;
  dz: number;
  /** Metres that were left at a border; 0 where all of the way was walked. */
  left: number;
}

/** A way over a mesh that has not begun: set its face, weights and direction, then follow it. */
export const newGeodesic = (): Geodesic => ({ face: -1, u: 0, v: 0, dx: 0, dy: 0, dz: 0, left: 0 });

/** More faces than any walk crosses; rounding at a vertex of many faces must not go round for ever. */
const MOST = 20_000;

/**
 * Walks a straight way over the faces of a surface: at each edge the next face is unfolded into the plane of the last,
 * so that lengths and angles along the surface are kept (straightest geodesics; Polthier, Schmies 1998). It ends at a
 * border, or at an edge of more than two faces, with what is left said in `left`.
 * @param at where it starts and how; where it ends is written to it. The direction is laid into the first face's plane
 * @param distance metres, not negative
 */
export function followGeodesic(triMesh: TriMesh, at: Geodesic, distance: number): void {
  const { positions: p, indices } = triMesh;
  at.left = 0;
  if (!layInto(triMesh, at)) return;
  let rest = distance;
  /** Side of the face that was come in by: never the way out again. */
  let entered = -1;
  for (let round = 0; rest > 0; round++) {
    const a = indices[at.face * 3] * 3;
    const [ru, rv] = weightsOn(triMesh, at.face, p[a] + at.dx, p[a + 1] + at.dy, p[a + 2] + at.dz);
    // Weights shrink towards a side at this rate; the first to come to nothing is the side that is left by.
    const rates = [-ru - rv, ru, rv];
    const weights = [1 - at.u - at.v, at.u, at.v];
    let out = -1;
    let way = Infinity;
    for (let corner = 0; corner < 3; corner++) {
      // The side opposite a corner runs from the next one on.
      if (rates[corner] >= 0 || (corner + 1) % 3 === entered) continue;
      const t = Math.max(0, weights[corner]) / -rates[corner];
      if (t < way) [way, out] = [t, corner];
    }
    if (way >= rest || out < 0) {
      at.u += ru * rest;
      at.v += rv * rest;
      return;
    }
    at.u += ru * way;
    at.v += rv * way;
    rest -= way;
    const side = (out + 1) % 3;
    const next = acrossSide(triMesh.topology(), at.face, side);
    if (next < 0 || round > MOST) {
      at.left = rest;
      return;
    }
    entered = cross(triMesh, at, side, next);
  }
}

/** Lays the direction into the plane of the face; false where it stands straight up from it. */
function layInto(triMesh: TriMesh, at: Geodesic): boolean {
  const [nx, ny, nz] = faceNormal(triMesh, at.face);
  const d = at.dx * nx + at.dy * ny + at.dz * nz;
  at.dx -= nx * d;
  at.dy -= ny * d;
  at.dz -= nz * d;
  const l = Math.sqrt(at.dx * at.dx + at.dy * at.dy + at.dz * at.dz);
  if (!(l > 1e-12)) return false;
  at.dx /= l;
  at.dy /= l;
  at.dz /= l;
  return true;
}

/** Goes over a side to the next face: place and direction in its terms. @returns its side that was come in by */
function cross(triMesh: TriMesh, at: Geodesic, side: number, next: number): number {
  const { positions: p, indices } = triMesh;
  const t = triMesh.topology();
  const edge = t.sides[at.face * 3 + side];
  let entered = 0;
  while (entered < 2 && t.sides[next * 3 + entered] !== edge) entered++;
  const i = indices[at.face * 3 + side] * 3;
  const j = indices[at.face * 3 + ((side + 1) % 3)] * 3;
  let ex = p[j] - p[i];
  let ey = p[j + 1] - p[i + 1];
  let ez = p[j + 2] - p[i + 2];
  const l = Math.sqrt(ex * ex + ey * ey + ez * ez);
  ex /= l;
  ey /= l;
  ez /= l;
  // Along the edge it stays; square to it, out of one face goes into the other.
  const along = at.dx * ex + at.dy * ey + at.dz * ez;
  const square = Math.sqrt(Math.max(0, 1 - along * along));
  const o = indices[next * 3 + ((entered + 2) % 3)] * 3;
  let ix = p[o] - p[i];
  let iy = p[o + 1] - p[i + 1];
  let iz = p[o + 2] - p[i + 2];
  const d = ix * ex + iy * ey + iz * ez;
  ix -= ex * d;
  iy -= ey * d;
  iz -= ez * d;
  const m = Math.sqrt(ix * ix + iy * iy + iz * iz);
  const k = m > 0 ? square / m : 0;
  const weights = [1 - at.u - at.v, at.u, at.v];
  const share = weights[side] + weights[(side + 1) % 3];
  const towards = share > 0 ? weights[(side + 1) % 3] / share : 0.5;
  at.dx = ex * along + ix * k;
  at.dy = ey * along + iy * k;
  at.dz = ez * along + iz * k;
  // Neighbours that are wound alike run along their common side in opposite ways.
  const alike = t.weld[indices[next * 3 + entered]] === t.weld[indices[at.face * 3 + ((side + 1) % 3)]];
  const first = alike ? 1 - towards : towards;
  const w = [0, 0, 0];
  w[entered] = 1 - first;
  w[(entered + 1) % 3] = first;
  at.face = next;
  [, at.u, at.v] = w;
  return entered;
}
