import { acos, asinh, cosh, hypot, sinh } from '../../math/portable';
import { cross, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { catenaryOfLength, catenaryOfSag } from '../generate/strand';
import { hungBetween, lengthOf, type Ends } from './hang';
import type { PathPoint } from '../schema';
import type { Hang } from './schema';

/** Straight pieces that a line which hangs is drawn in. */
export const PIECES = 16;
/** And one that may lie on uneven ground. */
export const PIECES_LYING = 96;
/** Of its parameter: up to here the slope of a line is less than two in one. */
const FLAT = 1.44;

/**
 * Writes a line as it is drawn, in closed form: `pieces` + 1 places from end to end, evenly along it.
 * @param o where its first number is written
 */
export function drawHung(
  ends: Ends,
  hang: Hang,
  down: Vec3,
  factor: number,
  out: Float32Array,
  o: number,
  pieces = PIECES,
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
    return drawPoints(hungBetween(ends, hang, down, factor).points, pieces, out, o);
  for (let k = 0; k <= pieces; k++) {
    let [px, py, pz] = [0, 0, 0];
    if (c && k > 0 && k < pieces) {
      const at = evenly(c, h, k / pieces);
      [px, py, pz] = [(x * at) / h, c.a * cosh((at - c.x0) / c.a) + c.y0, (z * at) / h];
      if (!still) [px, py, pz] = rotateAbout([px, py, pz], axis, -angle);
    } else {
      const t = k / pieces;
      [px, py, pz] = [way[0] * t, way[1] * t, way[2] * t];
    }
    out[o + k * 3] = from[0] + px;
    out[o + k * 3 + 1] = from[1] + py;
    out[o + k * 3 + 2] = from[2] + pz;
  }
}

/** How far along the level way a place is that is a share `t` of the length along the line. */
function evenly({ a, x0 }: { a: number; x0: number }, h: number, t: number): number {
  // Where it hangs flatly, even as seen from above is as good.
  if (Math.max(x0, h - x0) < FLAT * a) return h * t;
  const [first, last] = [sinh(-x0 / a), sinh((h - x0) / a)];
  return x0 + a * asinh(first + (last - first) * t);
}

/** Straight pieces that a line is measured by, and a side of it at the least. */
const MEASURED = 512;
const LEAST = 8;

/** What is no catenary (stiff lines, folds, what lies) by its own points: `pieces` + 1 places evenly along it. */
export function drawPoints(points: readonly PathPoint[], pieces: number, out: Float32Array, o: number): void {
  const sides = points.length - 1;
  const fine = Math.max(LEAST, Math.ceil(MEASURED / sides));
  const at = new Float64Array((sides * fine + 1) * 3);
  const far = new Float64Array(sides * fine + 1);
  for (let i = 0; i < sides; i++)
    for (let k = i === 0 ? 0 : 1; k <= fine; k++) write(points, i, k / fine, at, (i * fine + k) * 3);
  for (let i = 1; i < far.length; i++) {
    const p = i * 3;
    far[i] = far[i - 1] + hypot(at[p] - at[p - 3], at[p + 1] - at[p - 2], at[p + 2] - at[p - 1]);
  }
  const whole = far[far.length - 1];
  for (let k = 0, i = 1; k <= pieces; k++) {
    const s = (whole * k) / pieces;
    while (i < far.length - 1 && far[i] < s) i++;
    const t = far[i] > far[i - 1] ? Math.min(1, (s - far[i - 1]) / (far[i] - far[i - 1])) : 0;
    for (let a = 0; a < 3; a++) {
      const from = at[i * 3 - 3 + a];
      out[o + k * 3 + a] = k === pieces ? at[at.length - 3 + a] : from + (at[i * 3 + a] - from) * t;
    }
  }
}

/** Writes the place of a share `t` of the side behind point `i`. */
function write(points: readonly PathPoint[], i: number, t: number, out: Float64Array, o: number): void {
  const [p, q] = [points[i], points[i + 1]];
  const s = 1 - t;
  for (let a = 0; a < 3; a++) {
    const [p0, p3] = [p.position[a], q.position[a]];
    const p1 = p.kind === 'free' ? p0 + p.handleOut[a] : p0 + (p3 - p0) / 3;
    const p2 = q.kind === 'free' ? p3 + q.handleIn[a] : p3 - (p3 - p0) / 3;
    out[o + a] = s * s * s * p0 + 3 * s * s * t * p1 + 3 * s * t * t * p2 + t * t * t * p3;
  }
}
