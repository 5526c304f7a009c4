import type { Vec3 } from '@/core/math/vec3';
import type { ViewHandle } from './handle';
import { pickPlace, type SurfacePlace } from './pick';
import { onPlane, toScreen } from './project';
import { snapAt, type Snap } from './snap/snap';
import type { OneSlot } from './snap/snapPoints';

/** Where a peg would go: onto a surface, or free: on a path in the air, or on the ground. */
export interface PegPlace {
  at: Vec3;
  on: SurfacePlace | null;
  snap: Snap | null;
}

/** A place no farther from a surface, metres, lies on it: the lines of a path on a surface lie that near to its faces. */
export const ON_SURFACE = 0.01;
/** Near the horizon the ground runs away; a place farther off is never meant, metres. */
const FAR = 500;

/** @param free asks for no snapping @param held the peg that is moved, if one is */
export function pegPlace(
  view: ViewHandle,
  x: number,
  y: number,
  free = false,
  held?: OneSlot,
): PegPlace | null {
  const under = pickPlace(view, x, y);
  const at = under?.at ?? groundUnder(view, x, y);
  const snap = free ? null : snapAt(view, { x, y, free: at, held });
  if (snap?.tie) return { at: snap.at, on: null, snap };
  if (snap) return { at: snap.at, on: surfaceAt(view, snap.at), snap };
  return at && { at, on: under, snap: null };
}

/** The surface that a place of the scene lies on, as it is seen. */
function surfaceAt(view: ViewHandle, at: Vec3): SurfacePlace | null {
  const pixel = toScreen(view, at);
  const place = pixel.ahead ? pickPlace(view, pixel.x, pixel.y, at) : null;
  return place && Math.hypot(place.at[0] - at[0], place.at[1] - at[1], place.at[2] - at[2]) <= ON_SURFACE
    ? place
    : null;
}

function groundUnder(view: ViewHandle, x: number, y: number): Vec3 | null {
  const at = onPlane(view, x, y, [0, 1, 0], [0, 0, 0]);
  return at && Math.hypot(at[0] - view.target[0], at[2] - view.target[2]) < FAR ? at : null;
}
