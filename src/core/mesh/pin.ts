import { writeQuatFromUpFront, type Quat } from '../math/quat';
import { acos, atan2, cos, sin } from '../math/portable';
import { addScaled, cross, distance, dot, normalize, rotateAbout, sub, type Vec3 } from '../math/vec3';
import { buildBvh, type Bvh } from './bvh';
import { nearestPlace, noHit } from './bvhQuery';
import type { Pin } from './pinSchema';
import { normalOn, placeOn, triMeshBounds, type TriMesh } from './triMesh';

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
type Around = Pick<TriMesh, 'positions' | 'normals' | 'indices'>;

/** Up of a stance at a place: the surface's normal, or by the lean nearer to upright. */
export function upAt(around: Around, { face, u, v }: Place, lean: number): Vec3 {
  return leaning(normalOn(around as TriMesh, face, u, v), lean);
}

/** A direction, or by the lean nearer to upright: 1 is that itself, 0 straight up. */
export function leaning(n: Vec3, lean: number): Vec3 {
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
  const position: Vec3 = [0, 0, 0];
  const rotation: Quat = [0, 0, 0, 1];
  writePose(around, place, stance, position, rotation, 0);
  return { position, rotation };
}

/** {@link poseOn} into row `row` of the placements' arrays; square to the surface without an allocation. */
export function writePose(
  around: Around,
  place: Place,
  stance: Stance,
  position: Float64Array | number[],
  rotation: Float64Array | number[],
  row: number,
): void {
  const { positions: p, normals: n, indices } = around;
  const { face, u, v } = place;
  const a = indices[face * 3] * 3;
  const b = indices[face * 3 + 1] * 3;
  const c = indices[face * 3 + 2] * 3;
  const w = 1 - u - v;
  let ux = n[a] * w + n[b] * u + n[c] * v;
  let uy = n[a + 1] * w + n[b + 1] * u + n[c + 1] * v;
  let uz = n[a + 2] * w + n[b + 2] * u + n[c + 2] * v;
  const l = Math.sqrt(ux * ux + uy * uy + uz * uz);
  let tx = p[b] - p[a];
  let ty = p[b + 1] - p[a + 1];
  let tz = p[b + 2] - p[a + 2];
  const long = tx * tx + ty * ty + tz * tz;
  ux /= l;
  uy /= l;
  uz /= l;
  const along = tx * ux + ty * uy + tz * uz;
  tx -= ux * along;
  ty -= uy * along;
  tz -= uz * along;
  const square = tx * tx + ty * ty + tz * tz;
  const sx = p[c] - p[a];
  const sy = p[c + 1] - p[a + 1];
  const sz = p[c + 2] - p[a + 2];
  const other = sx * sx + sy * sy + sz * sz;
  if (!(l > 1e-9) || stance.lean < 1 || !(long > 1e-12 * other && square > 1e-6 * long)) {
    const up = upAt(around, place, stance.lean);
    [ux, uy, uz] = up;
    [tx, ty, tz] = tangentAt(around, face, up);
  } else {
    const k = 1 / Math.sqrt(square);
    tx *= k;
    ty *= k;
    tz *= k;
  }
  const co = cos(stance.turnDeg * DEG);
  const si = sin(stance.turnDeg * DEG);
  const o = row * 3;
  position[o] = p[a] * w + p[b] * u + p[c] * v + ux * stance.lift;
  position[o + 1] = p[a + 1] * w + p[b + 1] * u + p[c + 1] * v + uy * stance.lift;
  position[o + 2] = p[a + 2] * w + p[b + 2] * u + p[c + 2] * v + uz * stance.lift;
  writeQuatFromUpFront(
    rotation,
    row * 4,
    ux,
    uy,
    uz,
    tx * co + (uy * tz - uz * ty) * si,
    ty * co + (uz * tx - ux * tz) * si,
    tz * co + (ux * ty - uy * tx) * si,
  );
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
function uvTree({ uvs, indices }: TriMesh): Bvh {
  let tree = uvTrees.get(uvs!);
  if (!tree) {
    const flat = new Float64Array((uvs!.length / 2) * 3);
    for (let i = 0; i * 2 < uvs!.length; i++) flat.set([uvs![i * 2], uvs![i * 2 + 1]], i * 3);
    uvTrees.set(uvs!, (tree = buildBvh(flat, indices)));
  }
  return tree;
}

/** How much the texture coordinates of a place may differ from those that were kept with it. */
const SAME_UV = 1e-4;
/** Pins that are not where their face is, and where they were found: again and again while the surface moves. */
const found = new WeakMap<Pin, { uvs: Float32Array; place: Place | null }>();

/**
 * The place of a pin on its surface as that is now: the pin itself while its face is the one that it was put on, as its
 * texture coordinates tell. Else it is found again, by those or where it lay; null where it cannot be.
 * @param lay where it lay last
 */
export function placeOfPin(pin: Pin, lay: Vec3, triMesh: TriMesh): Place | null {
  const faces = triMesh.indices.length / 3;
  if (pin.faces !== faces || pin.face >= faces) return findAgain(triMesh, pin.uv, lay);
  const { uvs, indices } = triMesh;
  if (!pin.uv || !uvs) return pin;
  const o = pin.face * 3;
  const [a, b, c] = [indices[o] * 2, indices[o + 1] * 2, indices[o + 2] * 2];
  const w = 1 - pin.u - pin.v;
  const du = uvs[a] * w + uvs[b] * pin.u + uvs[c] * pin.v - pin.uv[0];
  const dv = uvs[a + 1] * w + uvs[b + 1] * pin.u + uvs[c + 1] * pin.v - pin.uv[1];
  if (Math.abs(du) < SAME_UV && Math.abs(dv) < SAME_UV) return pin;
  let have = found.get(pin);
  if (have?.uvs !== uvs) found.set(pin, (have = { uvs, place: otherFace(pin, lay, triMesh) }));
  return have.place;
}

/** Faces in another order, or other texture coordinates on the same faces: whichever lies nearer to where it lay. */
function otherFace(pin: Pin, lay: Vec3, triMesh: TriMesh): Place {
  const other = findAgain(triMesh, pin.uv, lay);
  const away = ({ face, u, v }: Place) => distance(placeOn(triMesh, face, u, v), lay);
  return other && away(other) <= away(pin) ? other : pin;
}

/**
 * A place on a surface whose triangles are others than they were: by its texture coordinates where both have some,
 * else the nearest to where it lay. @returns null where nothing is near
 */
export function findAgain(
  triMesh: TriMesh,
  uv: readonly [number, number] | undefined,
  at: Vec3,
): Place | null {
  const hit = noHit();
  if (uv && triMesh.uvs && nearestPlace(uvTree(triMesh), uv[0], uv[1], 0, 1e-6, hit))
    return { face: hit.face, u: hit.u, v: hit.v };
  const bounds = triMeshBounds(triMesh);
  if (!bounds) return null;
  const size = sub(bounds.max, bounds.min);
  const reach = Math.sqrt(dot(size, size)) * FAR;
  if (!nearestPlace(triMesh.tree(), at[0], at[1], at[2], reach, hit)) return null;
  return { face: hit.face, u: hit.u, v: hit.v };
}
