import { cross, type Vec3 } from '../../math/vec3';
import { DEG, quatFromBasis, quatMultiply, quatTurnTipRoll, type Quat } from '../../math/quat';
import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import type { Facing } from './schema';

/**
 * Which side of a path is outward: +1 left, −1 right of the way along. Taken from the signed area of the path
 * seen from above (an open path is closed by its chord); a straight one has its outside on the right.
 */
export function outwardSide(path: CompiledPath): 1 | -1 {
  const { position } = polyline(path, 0.2);
  const n = position.length / 3;
  let area = 0;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    area += position[i * 3 + 2] * position[j * 3] - position[j * 3 + 2] * position[i * 3];
  }
  // Seen from above with X to the right and Z towards the viewer, a positive sum runs counter-clockwise.
  return area > 0 ? -1 : area < 0 ? 1 : -1;
}

/**
 * Rotation of a prop from its frame: front and up of the path, turned to the heading.
 * @param front,up unit and perpendicular @param outward from {@link outwardSide}
 */
export function headingRotation(facing: Facing, front: Vec3, up: Vec3, outward: number): Quat {
  let f = front;
  if (facing.heading === 'across') f = cross(front, up);
  else if (facing.heading === 'outward') f = outward > 0 ? cross(up, front) : cross(front, up);
  else if (facing.heading === 'compass') f = compassFront(facing.compassDeg, front, up);
  return quatFromBasis(cross(up, f), up, f);
}

/** The compass direction laid into the plane square to `up`; the path's front where it points straight along up. */
function compassFront(deg: number, front: Vec3, up: Vec3): Vec3 {
  const a = deg * DEG;
  const d: Vec3 = [Math.sin(a), 0, -Math.cos(a)];
  const k = d[0] * up[0] + d[1] * up[1] + d[2] * up[2];
  const v: Vec3 = [d[0] - up[0] * k, d[1] - up[1] * k, d[2] - up[2] * k];
  const l = Math.hypot(...v);
  return l > 1e-6 ? [v[0] / l, v[1] / l, v[2] / l] : front;
}

/** The fixed turn, tip and roll of the facing step, in degrees, put on a rotation. */
export function turnTipRoll(rotation: Quat, turnDeg: number, tipDeg: number, rollDeg: number): Quat {
  if (turnDeg === 0 && tipDeg === 0 && rollDeg === 0) return rotation;
  return quatMultiply(rotation, quatTurnTipRoll(turnDeg * DEG, tipDeg * DEG, rollDeg * DEG));
}
