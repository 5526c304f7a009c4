import type { Vec3 } from '../math/vec3';
import { firstHit, nearestPlace, noHit, type MeshHit } from './bvhQuery';
import { uvIndex } from './chart/uvIndex';
import { turnTowards, type Place } from './pin';
import type { Pin } from './pinSchema';
import { uvOn, type TriMesh } from './triMesh';

/** Where a peg is to be pinned, and how it stands there. */
export interface ToPin {
  at: Vec3;
  /** Where its front points, as far as the surface lets it. */
  front: Vec3;
  lift?: number;
  lean?: number;
  /** Metres: what is farther away is no place for it. */
  within?: number;
}

/**
 * How a pin is looked for: on the nearest place of any surface; on the first one straight below, else above; or on the
 * nearest one straight along an axis, either way, so that the other two coordinates stay as they are.
 */
export type PinHow = 'nearest' | 'down' | 'x' | 'y' | 'z';

/** A pin on a place of some surfaces; null where none is. */
export function pinOn(surfaces: ReadonlyMap<string, TriMesh>, to: ToPin, how: PinHow): Pin | null {
  const hit = noHit();
  let best: { surface: string; triMesh: TriMesh; place: Place } | null = null;
  let away = to.within ?? Infinity;
  for (const [surface, triMesh] of surfaces) {
    if (!LOOK[how](triMesh, to.at, away, hit) || hit.t > away || (best && hit.t === away)) continue;
    away = hit.t;
    best = { surface, triMesh, place: { face: hit.face, u: hit.u, v: hit.v } };
  }
  return best && pinAt(best.surface, best.triMesh, best.place, to);
}

/** A pin on the place of a surface at u and v of its texture; null where none lies there. */
export function pinAtUv(
  surface: string,
  triMesh: TriMesh,
  [u, v]: readonly [number, number],
  to: Omit<ToPin, 'at'>,
): Pin | null {
  if (!triMesh.uvs) return null;
  const place: Place = { face: -1, u: 0, v: 0 };
  const found = uvIndex(triMesh as TriMesh & { uvs: Float32Array }).find(u, v, place);
  return found ? pinAt(surface, triMesh, place, to) : null;
}

const pinAt = (
  surface: string,
  triMesh: TriMesh,
  place: Place,
  { front, lift = 0, lean = 1 }: Omit<ToPin, 'at'>,
): Pin => ({
  surface,
  ...place,
  faces: triMesh.indices.length / 3,
  uv: uvOn(triMesh, place.face, place.u, place.v),
  lift,
  turnDeg: turnTowards(triMesh, place, lean, front),
  lean,
});

type Look = (triMesh: TriMesh, at: Vec3, within: number, hit: MeshHit) => boolean;

const ray =
  (x: number, y: number, z: number): Look =>
  (triMesh, at, within, hit) =>
    firstHit(triMesh.tree(), at[0], at[1], at[2], x, y, z, 0, within, hit);

/** The nearer of what lies either way. */
const eitherWay =
  (x: number, y: number, z: number): Look =>
  (triMesh, at, within, hit) => {
    const before = ray(-x, -y, -z)(triMesh, at, within, hit);
    const { face, u, v, t } = hit;
    if (ray(x, y, z)(triMesh, at, before ? t : within, hit) && !(before && hit.t >= t)) return true;
    if (before) Object.assign(hit, { face, u, v, t });
    return before;
  };

const LOOK: Record<PinHow, Look> = {
  nearest: (triMesh, at, within, hit) => nearestPlace(triMesh.tree(), at[0], at[1], at[2], within, hit),
  down: (triMesh, at, _, hit) =>
    firstHit(triMesh.tree(), at[0], at[1], at[2], 0, -1, 0, -1, Infinity, hit) ||
    ray(0, 1, 0)(triMesh, at, Infinity, hit),
  x: eitherWay(1, 0, 0),
  y: eitherWay(0, 1, 0),
  z: eitherWay(0, 0, 1),
};
