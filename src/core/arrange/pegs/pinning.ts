import type { Vec3 } from '../../math/vec3';
import { firstHit, nearestPlace, noHit } from '../../mesh/bvhQuery';
import { turnTowards } from '../../mesh/pin';
import { uvOn, type TriMesh } from '../../mesh/triMesh';
import type { Pin } from '../../mesh/pinSchema';

/** Where a peg is to be pinned, and how it stands there. */
export interface ToPin {
  at: Vec3;
  /** Where its front points, as far as the surface lets it. */
  front: Vec3;
  lift?: number;
  lean?: number;
}

/** A pin on the nearest place of some surfaces, or on the first straight below (else above); null where none is. */
export function pinOn(
  surfaces: ReadonlyMap<string, TriMesh>,
  { at, front, lift = 0, lean = 1 }: ToPin,
  how: 'nearest' | 'down',
): Pin | null {
  const hit = noHit();
  let best: { surface: string; triMesh: TriMesh; face: number; u: number; v: number } | null = null;
  let away = Infinity;
  for (const [surface, triMesh] of surfaces) {
    const tree = triMesh.tree();
    const found =
      how === 'nearest'
        ? nearestPlace(tree, at[0], at[1], at[2], away, hit)
        : firstHit(tree, at[0], at[1], at[2], 0, -1, 0, -1, Infinity, hit) ||
          firstHit(tree, at[0], at[1], at[2], 0, 1, 0, 0, Infinity, hit);
    if (!found || hit.t >= away) continue;
    away = hit.t;
    best = { surface, triMesh, face: hit.face, u: hit.u, v: hit.v };
  }
  if (!best) return null;
  const { surface, triMesh, face, u, v } = best;
  const place = { face, u, v };
  return {
    surface,
    ...place,
    faces: triMesh.indices.length / 3,
    uv: uvOn(triMesh, face, u, v),
    lift,
    turnDeg: turnTowards(triMesh, place, lean, front),
    lean,
  };
}
