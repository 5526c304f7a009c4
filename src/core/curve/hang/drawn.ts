import { acos, asinh, cosh, hypot, sinh } from '../../math/portable';
import { cross, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { catenaryOfLength, catenaryOfSag } from '../generate/strand';
import { hungBetween, lengthOf, type Ends } from './hang';
import type { Hang } from './schema';

/** Straight pieces that a line which hangs is drawn in. */
export const PIECES = 16;
/** Of its parameter: up to here the slope of a line is less than two in one. */
const FLAT = 1.44;

/**
 * Writes a line as it is drawn, in closed form: {@link PIECES} + 1 places from end to end, evenly along it.
 * @param o where its first number is written
 */
export function drawHung(
  ends: Ends,
  hang: Hang,
  down: Vec3,
  factor: number,
  out: Float32Array,
  o: number,
): void {
  const { from, to } = ends;
  const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const straight = hypot(way[0], way[1], way[2]);
  const still = down[0] === 0 && down[2] === 0;
  const axis = still ? down : normalize(cross(down, [0, -1, 0]));
  const angle = still ? 0 : acos(Math.max(-1, Math.min(1, -down[1])));
  const [x, v, z] = still ? way : rotateAbout(way, axis, angle);
  const h = hypot(x, z);
  const wanted = lengthOf(hang, straight, factor);
  const c =
    hang.how !== 'sag' || h <= 1e-9 * straight
      ? null
      : wanted === null
        ? catenaryOfSag(h, v, hang.sag * factor)
        : catenaryOfLength(h, v, wanted);
  if (!c && hang.how !== 'taut' && straight > 0 && (wanted === null || wanted > straight))
    return drawPoints(ends, hang, down, factor, out, o);
  for (let k = 0; k <= PIECES; k++) {
    let [px, py, pz] = [0, 0, 0];
    if (c && k > 0 && k < PIECES) {
      const at = evenly(c, h, k);
      [px, py, pz] = [(x * at) / h, c.a * cosh((at - c.x0) / c.a) + c.y0, (z * at) / h];
      if (!still) [px, py, pz] = rotateAbout([px, py, pz], axis, -angle);
    } else {
      const t = k / PIECES;
      [px, py, pz] = [way[0] * t, way[1] * t, way[2] * t];
    }
    out[o + k * 3] = from[0] + px;
    out[o + k * 3 + 1] = from[1] + py;
    out[o + k * 3 + 2] = from[2] + pz;
  }
}

/** How far along the level way the k-th place is: even in length along the line. */
function evenly({ a, x0 }: { a: number; x0: number }, h: number, k: number): number {
  // Where it hangs flatly, even as seen from above is as good.
  if (Math.max(x0, h - x0) < FLAT * a) return (h * k) / PIECES;
  const [first, last] = [sinh(-x0 / a), sinh((h - x0) / a)];
  return x0 + a * asinh(first + ((last - first) * k) / PIECES);
}

/** What is no catenary (stiff lines, folds) by its own points. */
function drawPoints(ends: Ends, hang: Hang, down: Vec3, factor: number, out: Float32Array, o: number): void {
  const { points } = hungBetween(ends, hang, down, factor);
  const sides = points.length - 1;
  for (let k = 0; k <= PIECES; k++) {
    const at = (k / PIECES) * sides;
    const i = Math.min(sides - 1, Math.floor(at));
    const t = at - i;
    const [p, q] = [points[i], points[i + 1]];
    for (let a = 0; a < 3; a++) {
      const [p0, p3] = [p.position[a], q.position[a]];
      const p1 = p.kind === 'free' ? p0 + p.handleOut[a] : p0 + (p3 - p0) / 3;
      const p2 = q.kind === 'free' ? p3 + q.handleIn[a] : p3 - (p3 - p0) / 3;
      const s = 1 - t;
      out[o + k * 3 + a] = s * s * s * p0 + 3 * s * s * t * p1 + 3 * s * t * t * p2 + t * t * t * p3;
    }
  }
}
