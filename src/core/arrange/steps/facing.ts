import type { Vec3 } from '../../math/vec3';
import {
  DEG,
  quatMultiply,
  quatTurnTipRoll,
  writeQuatFromUpFront,
  writeQuatOfAxes,
  type Quat,
} from '../../math/quat';
import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import type { Facing } from './schema';
import { cos, hypot, sin } from '../../math/portable';

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

/** A lane's frames at the slots' places, and what all its slots face by. */
export interface Facings {
  front: Float64Array;
  up: Float64Array;
  /** From {@link outwardSide}. */
  outward: number;
}

/**
 * Writes the rotation of a prop from its frame, front and up of the path turned to the heading, to `out` from `o` on.
 * @param r where the frame's unit, perpendicular front and up begin
 * @param to where it looks, from where it stands (heading "target") @param mirrored across the path
 */
export function writeHeading(
  out: Float64Array,
  o: number,
  facing: Pick<Facing, 'heading' | 'compassDeg'>,
  { front, up, outward }: Facings,
  r: number,
  to: Vec3 | null = null,
  mirrored = false,
): void {
  if (facing.heading === 'along' && !mirrored) {
    writeQuatOfAxes(out, o, up, r, front, r);
    return;
  }
  const fx = front[r];
  const fy = front[r + 1];
  const fz = front[r + 2];
  const ux = up[r];
  const uy = up[r + 1];
  const uz = up[r + 2];
  const rx = fy * uz - fz * uy;
  const ry = fz * ux - fx * uz;
  const rz = fx * uy - fy * ux;
  let x = fx;
  let y = fy;
  let z = fz;
  if (facing.heading === 'across' || facing.heading === 'outward') {
    const k = facing.heading === 'outward' && outward > 0 ? -1 : 1;
    x = rx * k;
    y = ry * k;
    z = rz * k;
  } else [x, y, z] = headingWay(facing, [fx, fy, fz], [ux, uy, uz], to);
  if (mirrored) {
    const k = 2 * (x * rx + y * ry + z * rz);
    x -= rx * k;
    y -= ry * k;
    z -= rz * k;
  }
  writeQuatFromUpFront(out, o, ux, uy, uz, x, y, z);
}

/** Where a prop faces by a heading of the scene, square to its up; its front where the heading is none of these. */
export function headingWay(
  { heading, compassDeg }: { heading: string; compassDeg: number },
  front: Vec3,
  up: Vec3,
  to: Vec3 | null,
): Vec3 {
  if (heading === 'compass') return laidFlat(compass(compassDeg), front, up);
  return heading === 'target' && to ? laidFlat(to, front, up) : front;
}

const compass = (deg: number): Vec3 => [sin(deg * DEG), 0, -cos(deg * DEG)];

/** A direction laid into the plane square to `up`; the path's front where it points straight along up. */
function laidFlat(d: Vec3, front: Vec3, up: Vec3): Vec3 {
  const k = d[0] * up[0] + d[1] * up[1] + d[2] * up[2];
  const v: Vec3 = [d[0] - up[0] * k, d[1] - up[1] * k, d[2] - up[2] * k];
  const l = hypot(...v);
  return l > 1e-6 * hypot(...d) && l > 1e-12 ? [v[0] / l, v[1] / l, v[2] / l] : front;
}

/** Puts a turn, tip and roll in degrees on the rotation that stands in `out` from `o` on. */
export function turnTipRoll(
  out: Float64Array,
  o: number,
  turnDeg: number,
  tipDeg: number,
  rollDeg: number,
): void {
  if (tipDeg === 0 && rollDeg === 0) {
    if (turnDeg === 0) return;
    // A turn about up alone, the most common one.
    const x = out[o];
    const y = out[o + 1];
    const z = out[o + 2];
    const w = out[o + 3];
    const s = sin((turnDeg * DEG) / 2);
    const c = cos((turnDeg * DEG) / 2);
    out[o] = x * c - z * s;
    out[o + 1] = y * c + w * s;
    out[o + 2] = z * c + x * s;
    out[o + 3] = w * c - y * s;
    return;
  }
  const q: Quat = [out[o], out[o + 1], out[o + 2], out[o + 3]];
  out.set(quatMultiply(q, quatTurnTipRoll(turnDeg * DEG, tipDeg * DEG, rollDeg * DEG)), o);
}
