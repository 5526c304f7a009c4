import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { furthest, type PropShape } from '../../mesh/support';
import type { Placements } from '../result';
import type { Probe } from './groundProbe';

/** Which of a prop's points touch the ground, and when. */

/** A point of the prop's own space as it stands in a row, from its foot. */
function fromFoot(out: Placements, row: number, p: Vec3): Vec3 {
  const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  const { scale } = out;
  return quatRotate(q, [p[0] * scale[row * 3], p[1] * scale[row * 3 + 1], p[2] * scale[row * 3 + 2]]);
}

/** Further than any point of a prop reaches from its foot. */
export function reachOf(shape: PropShape, { scale }: Placements, row: number): number {
  let most = 0;
  for (const p of shape.outermost) most = Math.max(most, Math.abs(p[0]) + Math.abs(p[1]) + Math.abs(p[2]));
  return most * Math.max(Math.abs(scale[row * 3]), scale[row * 3 + 1], scale[row * 3 + 2]);
}

/** Normal of the plane through the ground under the corners of the base; null where fewer than three have ground. */
export function planeUnder(
  out: Placements,
  row: number,
  shape: PropShape,
  foot: Vec3,
  d: Vec3,
  probe: Probe,
): Vec3 | null {
  const back = reachOf(shape, out, row);
  const found: Vec3[] = [];
  for (const corner of shape.base) {
    const p = fromFoot(out, row, corner);
    const o: Vec3 = [foot[0] + p[0], foot[1] + p[1], foot[2] + p[2]];
    const hit = probe.along(o, d, back);
    if (hit && hit.t <= back * 2) found.push([o[0] + d[0] * hit.t, o[1] + d[1] * hit.t, o[2] + d[2] * hit.t]);
  }
  return planeNormal(found, d);
}

/** The plane through a ring of points that fits them best (Newell's method: areas seen along each axis), against `d`. */
function planeNormal(points: Vec3[], d: Vec3): Vec3 | null {
  if (points.length < 3) return null;
  const n: Vec3 = [0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    n[0] += (p[1] - q[1]) * (p[2] + q[2]);
    n[1] += (p[2] - q[2]) * (p[0] + q[0]);
    n[2] += (p[0] - q[0]) * (p[1] + q[1]);
  });
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  const facing = n[0] * d[0] + n[1] * d[1] + n[2] * d[2];
  // Seen edge on they say nothing.
  if (!(l > 1e-12) || Math.abs(facing) < 1e-3 * l) return null;
  const k = facing > 0 ? -1 / l : 1 / l;
  return [n[0] * k, n[1] * k, n[2] * k];
}

/**
 * How far along `d` a prop whose foot stands at `foot` goes until the first of its points touches. Beside the given
 * points that one counts which lies furthest along `d`, so that it is exact on level ground.
 */
export function drop(
  out: Placements,
  row: number,
  shape: PropShape,
  points: Vec3[],
  foot: Vec3,
  d: Vec3,
  probe: Probe,
  back: number,
): number {
  const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  // The direction in the prop's own space; sizes weigh its axes.
  const own = quatRotate([-q[0], -q[1], -q[2], q[3]], d);
  const { scale } = out;
  const i = furthest(
    shape.points,
    own[0] * scale[row * 3],
    own[1] * scale[row * 3 + 1],
    own[2] * scale[row * 3 + 2],
  );
  const lowest: Vec3[] =
    i < 0 ? [] : [[shape.points[i * 3], shape.points[i * 3 + 1], shape.points[i * 3 + 2]]];
  let least = Infinity;
  for (const point of [...lowest, ...points]) {
    const p = fromFoot(out, row, point);
    const hit = probe.along([foot[0] + p[0], foot[1] + p[1], foot[2] + p[2]], d, back);
    if (hit && hit.t < least) least = hit.t;
  }
  return least < Infinity ? least : 0;
}
