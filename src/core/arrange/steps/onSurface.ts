import { hypot } from '../../math/portable';
import { findSpan } from '../../curve/arcLength';
import type { CompiledPath } from '../../curve/compile';
import type { Frames } from '../../curve/frames';
import { onPath } from '../../curve/sample';
import { cross, normalize, type Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../../mesh/bvhQuery';
import { upAt } from '../../mesh/pin';
import { normalOn, placeOn, weightsOn, type TriMesh } from '../../mesh/triMesh';
import { newGeodesic, followGeodesic, type Geodesic } from '../../mesh/geodesic';

/** The posture "surface": up is the normal of the surface that a path lies on, and ways to the side run over it. */

/** A place and its unit front and up at right angles to each other. */
export interface Pose {
  position: Vec3;
  front: Vec3;
  up: Vec3;
}

export interface SurfaceStand {
  /** Whether row i has a surface below it; the others stand as on a slope. */
  has(i: number): boolean;
  /** Writes what row i comes to when it is moved on and to the right by so many metres along the surface. */
  moved(i: number, along: number, side: number, out: Pose): void;
}

/** @param frames on a slope, at these lengths @param lean 1 stands square to the surface, 0 upright */
export function surfaceStand(
  path: CompiledPath,
  triMesh: TriMesh,
  s: ArrayLike<number>,
  frames: Frames,
  lean: number,
): SurfaceStand {
  // Places and ways on the path are asked for again after the caller has moved its own.
  const position = frames.position.slice();
  const tangent = frames.front.slice();
  const on = path.on!;
  const n = s.length;
  const face = new Int32Array(n);
  let span = 0;
  for (let i = 0; i < n; i++) {
    span = findSpan(path.table, onPath(path, s[i]), span);
    face[i] = on.face[path.table.segment[span]];
  }
  const walk = newGeodesic();
  const moved = (i: number, along: number, side: number, out: Pose) => {
    const [x, y, z] = [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]];
    const way: Vec3 = [tangent[i * 3], tangent[i * 3 + 1], tangent[i * 3 + 2]];
    [walk.u, walk.v] = weightsOn(triMesh, face[i], x, y, z);
    walk.face = face[i];
    const base = placeOn(triMesh, walk.face, walk.u, walk.v);
    // What a path is lifted by stays, and is not walked.
    const off: Vec3 = [x - base[0], y - base[1], z - base[2]];
    const distance = hypot(along, side);
    const normal = normalOn(triMesh, walk.face, walk.u, walk.v);
    let front = square(way, normal);
    if (distance > 0) {
      const right = cross(front, normal);
      const [a, b] = [along / distance, side / distance];
      goOver(triMesh, walk, [0, 1, 2].map((k) => front[k] * a + right[k] * b) as Vec3, distance);
      // The way that was walked, turned back by the angle at which it was set out on.
      const there = normalOn(triMesh, walk.face, walk.u, walk.v);
      const d = square([walk.dx, walk.dy, walk.dz], there);
      const e = cross(d, there);
      front = [0, 1, 2].map((k) => d[k] * a - e[k] * b) as Vec3;
    }
    const at = placeOn(triMesh, walk.face, walk.u, walk.v);
    const up = upAt(triMesh, walk, lean);
    out.position[0] = at[0] + off[0] + walk.dx * walk.left;
    out.position[1] = at[1] + off[1] + walk.dy * walk.left;
    out.position[2] = at[2] + off[2] + walk.dz * walk.left;
    out.up = up;
    out.front = square(front, up);
    walk.left = 0;
  };
  return { has: (i) => face[i] >= 0, moved };
}

const hit = noHit();

/**
 * Moves a place on over a surface: to the place of it that is nearest to where that would be straight on.
 * @param upOn the up of something on a place with that normal @param along metres to its front @param side to its right
 */
export function movedOver(
  surface: TriMesh,
  position: Vec3,
  front: Vec3,
  up: Vec3,
  upOn: (normal: Vec3) => Vec3,
  along: number,
  side: number,
  out: Pose,
): boolean {
  const right = cross(front, up);
  const to = position.map((v, a) => v + front[a] * along + right[a] * side);
  if (!nearestPlace(surface.tree(), to[0], to[1], to[2], Infinity, hit)) return false;
  out.position = placeOn(surface, hit.face, hit.u, hit.v);
  out.up = upOn(normalOn(surface, hit.face, hit.u, hit.v));
  out.front = square(front, out.up);
  return true;
}

function goOver(triMesh: TriMesh, walk: Geodesic, way: Vec3, distance: number): void {
  [walk.dx, walk.dy, walk.dz] = way;
  followGeodesic(triMesh, walk, distance);
}

/** A direction laid square to `up`. */
function square(d: Vec3, up: Vec3): Vec3 {
  const k = d[0] * up[0] + d[1] * up[1] + d[2] * up[2];
  const other: Vec3 = Math.abs(up[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return normalize(
    [d[0] - up[0] * k, d[1] - up[1] * k, d[2] - up[2] * k],
    normalize(cross(cross(up, other), up)),
  );
}
