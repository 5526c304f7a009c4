import { quatFromUpFront, type Quat } from '../math/quat';
import { acos, atan2, cos, sin } from '../math/portable';
import { addScaled, cross, dot, normalize, rotateAbout, sub, type Vec3 } from '../math/vec3';
import { buildBvh, nearestPlace, noHit, type Bvh } from './bvh';
import { normalOn, placeOn, solidBounds, type Solid } from './solid';

/** Places on a surface that stay on its material: a triangle and the weights of its second and third corner. */
export interface Place {
  face: number;
  u: number;
  v: number;
}

/** How something stands on its place. */
export interface Stance {
  lift: number;
  turnDeg: number;
  lean: number;
}

const DEG = Math.PI / 180;
const UP: Vec3 = [0, 1, 0];

/** What a place needs to know of its surface. */
type Around = Pick<Solid, 'positions' | 'normals' | 'indices'>;

/** Up of a stance at a place: the surface's normal, or by the lean nearer to upright. */
function upAt(around: Around, { face, u, v }: Place, lean: number): Vec3 {
  const n = normalOn(around as Solid, face, u, v);
  if (lean >= 1) return n;
  const angle = acos(Math.min(1, Math.max(-1, n[1])));
  const axis = normalize(cross(UP, n), [1, 0, 0]);
  return rotateAbout(UP, axis, angle * lean);
}

/** The triangle's first side, laid square to `up`: it turns with the material. */
function tangentAt({ positions: p, indices }: Around, face: number, up: Vec3): Vec3 {
  const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
    const o = indices[face * 3 + k] * 3;
    return [p[o], p[o + 1], p[o + 2]];
  });
  const [ab, ac] = [sub(b, a), sub(c, a)];
  // At a pole two corners lie together: then the other side tells.
  const side = dot(ab, ab) > 1e-12 * dot(ac, ac) ? ab : ac;
  const other: Vec3 = Math.abs(up[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return normalize(addScaled(side, up, -dot(side, up)), normalize(cross(cross(up, other), up)));
}

/** Where a prop stands that is pinned to a place. */
export function poseOn(around: Around, place: Place, stance: Stance): { position: Vec3; rotation: Quat } {
  const up = upAt(around, place, stance.lean);
  const tangent = tangentAt(around, place.face, up);
  const [c, s] = [cos(stance.turnDeg * DEG), sin(stance.turnDeg * DEG)];
  const side = cross(up, tangent);
  const front: Vec3 = [0, 1, 2].map((a) => tangent[a] * c + side[a] * s) as Vec3;
  return {
    position: addScaled(placeOn(around as Solid, place.face, place.u, place.v), up, stance.lift),
    rotation: quatFromUpFront(up, front),
  };
}

/** The turn in degrees at which a prop's front points as nearly as it can along `front`. */
export function turnTowards(around: Around, place: Place, lean: number, front: Vec3): number {
  const up = upAt(around, place, lean);
  const tangent = tangentAt(around, place.face, up);
  return atan2(dot(front, cross(up, tangent)), dot(front, tangent)) / DEG;
}

/** Which way a prop faces that is newly put on a surface: up a wall, towards +Z on what is level. */
export const restingFront = (normal: Vec3): Vec3 => (Math.abs(normal[1]) < 0.8 ? UP : [0, 0, 1]);

/** How far a place may be from where it was, as a share of the surface's size, to be found again. */
const FAR = 0.25;
const uvTrees = new WeakMap<Float32Array, Bvh>();

/** The triangles laid flat by their texture coordinates. */
function uvTree({ uvs, indices }: Solid): Bvh {
  let tree = uvTrees.get(uvs!);
  if (!tree) {
    const flat = new Float64Array((uvs!.length / 2) * 3);
    for (let i = 0; i * 2 < uvs!.length; i++) flat.set([uvs![i * 2], uvs![i * 2 + 1]], i * 3);
    uvTrees.set(uvs!, (tree = buildBvh(flat, indices)));
  }
  return tree;
}

/**
 * A place on a surface whose triangles are others than they were: by its texture coordinates where both have some,
 * else the nearest to where it lay. @returns null where nothing is near
 */
export function findAgain(solid: Solid, uv: readonly [number, number] | undefined, at: Vec3): Place | null {
  const hit = noHit();
  if (uv && solid.uvs && nearestPlace(uvTree(solid), uv[0], uv[1], 0, 1e-6, hit))
    return { face: hit.face, u: hit.u, v: hit.v };
  const bounds = solidBounds(solid);
  if (!bounds) return null;
  const size = sub(bounds.max, bounds.min);
  const reach = Math.sqrt(dot(size, size)) * FAR;
  if (!nearestPlace(solid.tree(), at[0], at[1], at[2], reach, hit)) return null;
  return { face: hit.face, u: hit.u, v: hit.v };
}
