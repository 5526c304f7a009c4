import type { Vec3 } from '../../math/vec3';
import { firstHit, nearestPlace, noHit } from '../../mesh/bvhQuery';
import { normalOn, placeOn, type TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Ground } from './groundSchema';

/** What props stand on: rays onto surfaces, and nearest places of them. */

/** Where a prop meets the ground. */
export interface Meeting {
  at: Vec3;
  /** Unit, to the side that it came from. */
  normal: Vec3;
}

/** What can be met: real surfaces, or the level floor that stands in for them. */
export interface Probe {
  /** Lengths of `d` from `o` to the first thing met, −`back` at the least. */
  along(o: Vec3, d: Vec3, back: number): { t: number; normal: Vec3 } | null;
}

/** The surfaces of a ground step as they stand now. */
export function triMeshesOf(ground: Ground, context: ArrangeContext): TriMesh[] {
  const ids = ground.surfaces.length > 0 ? ground.surfaces : (context.grounds?.() ?? []);
  return ids.map((id) => context.surface?.(id)).filter((s) => s !== undefined);
}

/** Real surfaces: the first that is met. */
export function surfaceProbe(triMeshes: TriMesh[]): Probe {
  const hit = noHit();
  return {
    along(o, d, back) {
      let best: { t: number; normal: Vec3 } | null = null;
      for (const triMesh of triMeshes) {
        const most = best ? best.t : Infinity;
        if (!firstHit(triMesh.tree(), o[0], o[1], o[2], d[0], d[1], d[2], -back, most, hit)) continue;
        if (best && hit.t >= best.t) continue;
        const n = normalOn(triMesh, hit.face, hit.u, hit.v);
        const k = n[0] * d[0] + n[1] * d[1] + n[2] * d[2] > 0 ? -1 : 1;
        best = { t: hit.t, normal: [n[0] * k, n[1] * k, n[2] * k] };
      }
      return best;
    },
  };
}

/** The first ground from `above` over a place on; where there is none, the first the other way. */
export function landing(probe: Probe, at: Vec3, d: Vec3, above: number): Meeting | null {
  const down = probe.along(at, d, above);
  const against: Vec3 = [-d[0], -d[1], -d[2]];
  const up = down ? null : probe.along(at, against, 0);
  const found = down ?? up;
  if (!found) return null;
  const t = down ? found.t : -found.t;
  const { normal: n } = found;
  return {
    at: [at[0] + d[0] * t, at[1] + d[1] * t, at[2] + d[2] * t],
    // Met from below, it still stands on top.
    normal: down ? n : [-n[0], -n[1], -n[2]],
  };
}

/** The nearest place of any of them. */
export function nearest(triMeshes: TriMesh[], at: Vec3): Meeting | null {
  const hit = noHit();
  let best: { triMesh: TriMesh; face: number; u: number; v: number } | null = null;
  let away = Infinity;
  for (const triMesh of triMeshes) {
    if (!nearestPlace(triMesh.tree(), at[0], at[1], at[2], away, hit) || hit.t >= away) continue;
    away = hit.t;
    best = { triMesh, face: hit.face, u: hit.u, v: hit.v };
  }
  return (
    best && {
      at: placeOn(best.triMesh, best.face, best.u, best.v),
      normal: normalOn(best.triMesh, best.face, best.u, best.v),
    }
  );
}
