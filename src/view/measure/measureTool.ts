import { Raycaster, Vector3 } from 'three';
import { snapInRow } from '@/core/arrange/snapPlace';
import { slotName } from '@/core/arrange/slotId';
import { hasPoints } from '@/core/curve/schema';
import { nearestOnPath } from '@/core/curve/nearest';
import type { Vec3 } from '@/core/math/vec3';
import type { MeasuredPlace } from '@/core/scene/measureSchema';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import type { ViewHandle } from '../handle';
import { pick, targetsIn } from '../pick';
import { onPlane } from '../project';
import { curveOf } from '../snap/candidates';
import { snapAt, type Snap } from '../snap/snap';
import { tiedNow } from '../snap/snapPoints';
import { useView } from '../viewState';
import type { Measuring, Taken } from './measuring';

/**
 * The measure tool: clicks take places, snapped as drawing is: two are a distance, a third makes it an angle, a fourth
 * begins anew. What is measured goes with what its places are connected to.
 */

/** @param free suspends snapping */
function takeAt(view: ViewHandle, x: number, y: number, free: boolean): Pick<Measuring, 'ahead' | 'prop'> {
  const hit = pick(view, x, y);
  const ground = hit?.point ?? onPlane(view, x, y, [0, 1, 0], [0, 0, 0]);
  const from = useView.getState().measuring.taken.at(-1)?.position;
  const snap = free ? null : snapAt(view, { x, y, free: ground, from });
  const position = snap?.at ?? ground;
  const prop = hit?.kind === 'prop' ? { arrangement: hit.arrangement, slot: hit.slot } : null;
  if (!position) return { ahead: null, prop };
  const tie = snap?.tie ?? pointTie(snap) ?? (prop && !snap ? footTie(prop, position) : undefined);
  return { ahead: { position, snap, path: snap?.path ?? null, ...(tie && { tie }) }, prop };
}

/** A place on a point of a path goes with that. */
function pointTie(snap: Snap | null): MeasuredPlace['tie'] {
  const path = useDocument.getState().scene.paths.find((p) => p.id === snap?.path);
  if (snap?.point === undefined || !hasPoints(path)) return undefined;
  const point = path.source.points[snap.point]?.id;
  return point ? { to: 'point', path: path.id, point } : undefined;
}

/** A place on a prop's foot, near enough to be that. */
function footTie({ arrangement, slot }: NonNullable<Measuring['prop']>, at: Vec3): MeasuredPlace['tie'] {
  const p = engine().state.result.arrangements.get(arrangement)?.placements;
  const foot = p && snapInRow(p, p.slot.indexOf(slot), null, () => undefined)?.position;
  return foot && Math.hypot(...foot.map((v, k) => v - at[k])) < 1e-3
    ? { to: 'slot', arrangement, slot: slotName(slot), snap: null }
    : undefined;
}

export function measureAhead(view: ViewHandle, x: number, y: number, free: boolean): void {
  const found = takeAt(view, x, y, free);
  useView.setState((s) => ({ measuring: { ...s.measuring, ...found } }));
}

export function measureClick(view: ViewHandle, x: number, y: number, free: boolean): void {
  const found = takeAt(view, x, y, free);
  const { ahead } = found;
  if (!ahead) return;
  useView.setState((s) => {
    const { taken } = s.measuring;
    return {
      measuring: { ...s.measuring, ...found, taken: taken.length === 3 ? [ahead] : [...taken, ahead] },
    };
  });
}

/** Escape: takes the last place back. @returns whether there was one */
export function measureStepBack(): boolean {
  const { measuring } = useView.getState();
  if (measuring.taken.length === 0) return false;
  useView.setState({ measuring: { ...measuring, taken: measuring.taken.slice(0, -1) } });
  return true;
}

/** Where a measured place is now. */
export function placeNow({ position, tie }: MeasuredPlace): Vec3 {
  if (!tie) return position;
  return tiedNow(tie, position)?.position ?? position;
}

/** How far it is along a path that both lie on, the shorter way round a loop; null where they share none. */
export function alongPath(a: Taken, b: Taken): number | null {
  if (a.path === null || a.path !== b.path) return null;
  const result = engine().state.result.paths.get(a.path);
  let best: number | null = null;
  for (const stroke of result?.strokes ?? []) {
    const curve = curveOf(stroke);
    const [p, q] = [a, b].map((t) => nearestOnPath(curve, placeNow(t)));
    if (p.distance > 1e-3 || q.distance > 1e-3) continue;
    const far = Math.abs(p.s - q.s);
    const way = stroke.closed ? Math.min(far, stroke.length - far) : far;
    best = best === null ? way : Math.min(best, way);
  }
  return best;
}

/** The surface straight below a place, and how far down; null where there is none. */
export function overGround(view: ViewHandle, at: Vec3): { surface: string; height: number } | null {
  // From a hair above, so that what lies on it is at nothing.
  const ray = new Raycaster(new Vector3(at[0], at[1] + 1e-4, at[2]), new Vector3(0, -1, 0));
  const hit = ray.intersectObjects(targetsIn(view, 'surfaces'), false)[0];
  return hit
    ? { surface: hit.object.userData.surface as string, height: Math.max(0, hit.distance - 1e-4) }
    : null;
}
