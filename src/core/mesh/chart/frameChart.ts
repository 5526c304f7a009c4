import { firstHit, nearestPlace, noHit } from '../bvhQuery';
import type { Place } from '../pin';
import { quatRotate, type Quat } from '../../math/quat';
import { addScaled, dot, type Vec3 } from '../../math/vec3';
import { faceNormal, normalOn, placeOn, type TriMesh } from '../triMesh';
import type { Chart } from './chart';

/** A flat rectangle placed before a surface, from which things are laid onto it. */
export interface PlacedFrame {
  /** The middle of the rectangle, metres in the scene. */
  position: Vec3;
  /** From its own axes: X left, Y out of it (away from the surface), Z up the sheet. */
  rotation: Quat;
  width: number;
  height: number;
  /** Along its own Y, or each place to the nearest one of the surface. */
  along: 'normal' | 'nearest';
  /** Metres to both sides within which the surface is met. */
  reach: number;
}

/**
 * The chart of a surface as it is seen from a flat rectangle: u runs to the right and v up, in metres from its lower
 * left corner. Lengths are those of the rectangle.
 */
export function frameChart(
  now: TriMesh,
  frame: PlacedFrame,
): Chart & { place(u: number, v: number, out: Place): boolean } {
  const { position, rotation, width, height, along, reach } = frame;
  const right = quatRotate(rotation, [-1, 0, 0]);
  const out = quatRotate(rotation, [0, 1, 0]);
  const up = quatRotate(rotation, [0, 0, 1]);
  const corner = addScaled(addScaled(position, right, -width / 2), up, -height / 2);
  const hit = noHit();
  /** What lies before the rectangle, as near to it as it may be, or else what lies behind it. */
  const meet = ([x, y, z]: Vec3): boolean => {
    const tree = now.tree();
    const front = firstHit(tree, x, y, z, out[0], out[1], out[2], 0, reach, hit);
    const [face, fu, fv, t] = [hit.face, hit.u, hit.v, hit.t];
    const back = firstHit(tree, x, y, z, -out[0], -out[1], -out[2], 0, front ? t : reach, hit);
    if (front && !back) [hit.face, hit.u, hit.v] = [face, fu, fv];
    return front || back;
  };
  const hair = (width + height) * 1e-7;
  const place = (u: number, v: number, to: Place): boolean => {
    const from = addScaled(addScaled(corner, right, u), up, v);
    const met =
      along === 'nearest'
        ? nearestPlace(now.tree(), from[0], from[1], from[2], reach, hit)
        : // Through the very tip of a pole a ray may slip between its faces: a hair beside it there are some.
          meet(from) || meet(addScaled(addScaled(from, right, hair), up, hair * 0.37));
    if (!met) return false;
    to.face = hit.face;
    to.u = hit.u;
    to.v = hit.v;
    return true;
  };
  const here: Place = { face: -1, u: 0, v: 0 };
  const even = (n: number) => ({ at: Float64Array.of(0, n), s: Float64Array.of(0, n) });
  return {
    u: [0, width],
    v: [0, height],
    closedU: false,
    closedV: false,
    flat: true,
    place,
    at(u, v, to) {
      if (!place(u, v, here)) return false;
      to.set(placeOn(now, here.face, here.u, here.v), 0);
      let n = normalOn(now, here.face, here.u, here.v);
      // The side of the surface that looks to the rectangle, whichever way its faces run.
      if (dot(n, out) < 0) n = [-n[0], -n[1], -n[2]];
      to.set(n, 3);
      to.set(carriedAlong(right, out, faceNormal(now, here.face)), 6);
      to.set(carriedAlong(up, out, faceNormal(now, here.face)), 9);
      return true;
    },
    line: (stays) => even(stays === 0 ? height : width),
  };
}

/** How the place on a face moves when the ray along `out` moves along `way`. */
function carriedAlong(way: Vec3, out: Vec3, face: Vec3): Vec3 {
  const k = dot(out, face);
  // A face that is seen edge on: as far as can be told.
  const on = Math.abs(k) < 1e-3 ? way : addScaled(way, out, -dot(way, face) / k);
  const l = Math.sqrt(dot(on, on));
  const most = 20;
  return l > most ? [(on[0] / l) * most, (on[1] / l) * most, (on[2] / l) * most] : on;
}
