import type { PathPoint } from './schema';
import {
  add,
  cross,
  distance,
  dot,
  length,
  lerp,
  normalize,
  rotateAbout,
  scale,
  sub,
  type Vec3,
} from '../math/vec3';
import type { CompiledPath } from './compile';
import { corner, through } from './generate/points';
import { alongPoints, samplePath } from './sample';
import { atan2, cos, sin } from '../math/portable';

/** Edits that make new points for one stroke. New points have no id; whoever puts them into a path gives them one. */

const read = (a: ArrayLike<number>, o: number): Vec3 => [a[o], a[o + 1], a[o + 2]];

/** Roll, size and zone of the path at a length, for a new point there. */
function measuresAt(path: CompiledPath, s: number): Pick<PathPoint, 'rollDeg' | 'size' | 'zone'> {
  let i = path.pointS.length - 1;
  while (i > 0 && path.pointS[i] > s + 1e-9 * path.length) i--;
  return {
    rollDeg: alongPoints(path, path.rollDeg, s),
    size: alongPoints(path, path.size, s),
    zone: path.zone[i],
  };
}

/**
 * A point in the middle of every cubic, the curve kept exactly (de Casteljau). Straight sides stay corners; the rest
 * becomes free points.
 */
export function subdivide(path: CompiledPath): PathPoint[] {
  const out: PathPoint[] = [];
  const c = path.controls;
  const halves: { p: Vec3[]; straight: boolean; s: number }[] = [];
  for (let k = 0; k < path.segmentCount; k++) {
    const p = [0, 3, 6, 9].map((o) => read(c, k * 12 + o));
    if (distance(p[0], p[3]) === 0 && distance(p[0], p[1]) === 0 && distance(p[0], p[2]) === 0) continue;
    const [a, b, d] = [lerp(p[0], p[1], 0.5), lerp(p[1], p[2], 0.5), lerp(p[2], p[3], 0.5)];
    const [e, f] = [lerp(a, b, 0.5), lerp(b, d, 0.5)];
    const mid = lerp(e, f, 0.5);
    const straight = isStraight(p);
    const [s0, s1] = [path.table.segmentS[k], path.table.segmentS[k + 1]];
    halves.push(
      { p: [p[0], a, e, mid], straight, s: s0 },
      { p: [mid, f, d, p[3]], straight, s: (s0 + s1) / 2 },
    );
  }
  const n = halves.length;
  for (let i = 0; i <= n; i++) {
    if (i === n && path.closed) break;
    const into = i > 0 ? halves[i - 1] : path.closed ? halves[n - 1] : undefined;
    const from = halves[i];
    const at = from ? from.p[0] : into!.p[3];
    const flat = (!into || into.straight) && (!from || from.straight);
    const point = flat ? corner(at) : through(at, [0, 0, 0]);
    out.push({
      ...point,
      ...(flat
        ? {}
        : {
            handleIn: into ? sub(into.p[2], at) : [0, 0, 0],
            handleOut: from ? sub(from.p[1], at) : [0, 0, 0],
          }),
      ...measuresAt(path, from ? from.s : path.length),
    });
  }
  return out;
}

const isStraight = (p: Vec3[]) => {
  const way = normalize(sub(p[3], p[0]), [0, 0, 0]);
  return [p[1], p[2]].every((q) => length(cross(way, sub(q, p[0]))) <= 1e-9 * distance(p[0], p[3]));
};

/** Lengths where a stroke is cut into sides: its ends and its sharp corners; a smooth loop once, at its start. */
function sidesOf(path: CompiledPath): number[] {
  const corners = [...path.corners];
  if (!path.closed) return [0, ...corners.filter((s) => s > 0 && s < path.length), path.length];
  return corners.length ? [...corners, corners[0] + path.length] : [0, path.length];
}

/**
 * Points evenly by arc length, each side between sharp corners for itself, so that corners stay.
 * @param step metres; each side gets the whole number of steps that comes nearest, at least one
 */
export function resample(path: CompiledPath, step: number): PathPoint[] {
  const sides = sidesOf(path);
  const sharp = path.corners.length > 0;
  const places: { s: number; kind: 'corner' | 'smooth' }[] = [];
  for (let i = 0; i + 1 < sides.length; i++) {
    const [a, b] = [sides[i], sides[i + 1]];
    const least = !sharp && path.closed ? 3 : 1;
    const n = Math.min(5000, Math.max(least, Math.round((b - a) / step)));
    for (let k = 0; k < n; k++) {
      places.push({
        s: a + ((b - a) * k) / n,
        kind: k === 0 && (sharp || !path.closed) ? 'corner' : 'smooth',
      });
    }
  }
  if (!path.closed) places.push({ s: path.length, kind: 'corner' });
  const wrapped = places.map(({ s }) => (path.closed && s >= path.length ? s - path.length : s));
  const { position } = samplePath(path, wrapped);
  return places.map(({ kind }, i) => ({
    ...corner(read(position, i * 3)),
    kind,
    ...measuresAt(path, wrapped[i]),
  }));
}

/**
 * Fewer points: cubics fitted to the curve within `tolerance` metres, cut where they must be (Schneider: An Algorithm
 * for Automatically Fitting Digitized Curves, Graphics Gems, 1990). Sharp corners and ends stay.
 */
export function simplify(path: CompiledPath, tolerance: number): PathPoint[] {
  const sides = sidesOf(path);
  const sharp = path.corners.length > 0;
  const cubics: Vec3[][] = [];
  for (let i = 0; i + 1 < sides.length; i++) {
    const [a, b] = [sides[i], sides[i + 1]];
    const n = Math.min(4000, Math.max(24, path.segmentCount * 6));
    const hair = (b - a) * 1e-7;
    const s = Array.from({ length: n + 1 }, (_, k) => a + ((b - a) * k) / n);
    // Directions just inside, so that at a corner they are those of this side.
    const inner = s.map((v) => Math.min(b - hair, Math.max(a + hair, v)));
    const round = (v: number) => (path.closed ? v % path.length : v);
    const { position } = samplePath(path, s.map(round));
    const { tangent } = samplePath(path, inner.map(round));
    const points = s.map((_, k) => read(position, k * 3));
    const tangents = s.map((_, k) => read(tangent, k * 3));
    fitCubics(points, tangents, 0, n, tolerance, cubics);
  }
  const n = cubics.length;
  const out: PathPoint[] = [];
  for (let i = 0; i <= n; i++) {
    if (i === n && path.closed) break;
    const into = i > 0 ? cubics[i - 1] : path.closed ? cubics[n - 1] : undefined;
    const from = cubics[i];
    const at = from ? from[0] : into![3];
    const flat = (!into || isStraightWithin(into, tolerance)) && (!from || isStraightWithin(from, tolerance));
    out.push({
      ...(flat && (sharp || !path.closed) ? corner(at) : through(at, [0, 0, 0])),
      ...(flat
        ? {}
        : { handleIn: into ? sub(into[2], at) : [0, 0, 0], handleOut: from ? sub(from[1], at) : [0, 0, 0] }),
      ...measuresAt(path, nearestS(path, at)),
    });
  }
  return out;
}

const isStraightWithin = (p: Vec3[], tolerance: number) => {
  const way = normalize(sub(p[3], p[0]), [0, 0, 0]);
  return [p[1], p[2]].every((q) => length(cross(way, sub(q, p[0]))) <= tolerance * 0.05);
};

/** Length of the path's own point nearest to a place; good enough to carry roll, size and zone over. */
function nearestS(path: CompiledPath, at: Vec3): number {
  const { position } = samplePath(path, path.pointS);
  let best = 0;
  for (let i = 1; i < path.pointS.length; i++)
    if (distance(read(position, i * 3), at) < distance(read(position, best * 3), at)) best = i;
  return path.pointS[best];
}

function fitCubics(
  p: Vec3[],
  t: Vec3[],
  first: number,
  last: number,
  tolerance: number,
  out: Vec3[][],
): void {
  const chord = [0];
  for (let i = first + 1; i <= last; i++) chord.push(chord[i - first - 1] + distance(p[i], p[i - 1]));
  const total = chord[chord.length - 1];
  let u = chord.map((c) => (total > 0 ? c / total : 0));
  for (let round = 0; round < 6; round++) {
    const curve = leastSquares(p, first, last, u, t[first], scale(t[last], -1));
    let worst = { d: 0, i: Math.floor((first + last) / 2) };
    for (let i = first + 1; i < last; i++) {
      const d = distance(bezier(curve, u[i - first]), p[i]);
      if (d > worst.d) worst = { d, i };
    }
    if (worst.d <= tolerance || last - first < 3) return void out.push(curve);
    if (worst.d > tolerance * 16 || round === 5) {
      fitCubics(p, t, first, worst.i, tolerance, out);
      return fitCubics(p, t, worst.i, last, tolerance, out);
    }
    u = u.map((v, k) => closer(curve, p[first + k], v));
  }
}

function bezier(c: Vec3[], u: number): Vec3 {
  const v = 1 - u;
  const w = [v * v * v, 3 * u * v * v, 3 * u * u * v, u * u * u];
  return [0, 1, 2].map((a) => c[0][a] * w[0] + c[1][a] * w[1] + c[2][a] * w[2] + c[3][a] * w[3]) as Vec3;
}

/** One Newton step towards the nearest place of the curve. */
function closer(c: Vec3[], q: Vec3, u: number): number {
  const v = 1 - u;
  const d1 = [0, 1, 2].map(
    (a) => 3 * (v * v * (c[1][a] - c[0][a]) + 2 * u * v * (c[2][a] - c[1][a]) + u * u * (c[3][a] - c[2][a])),
  ) as Vec3;
  const d2 = [0, 1, 2].map(
    (a) => 6 * (v * (c[2][a] - 2 * c[1][a] + c[0][a]) + u * (c[3][a] - 2 * c[2][a] + c[1][a])),
  ) as Vec3;
  const off = sub(bezier(c, u), q);
  const slope = dot(d1, d1) + dot(off, d2);
  const next = slope > 1e-30 ? u - dot(off, d1) / slope : u;
  return Math.min(1, Math.max(0, next));
}

/** The cubic with given end directions that is nearest to the points at their parameters. */
function leastSquares(p: Vec3[], first: number, last: number, u: number[], t1: Vec3, t2: Vec3): Vec3[] {
  const [a, b] = [p[first], p[last]];
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0];
  for (let i = 0; i < u.length; i++) {
    const v = 1 - u[i];
    const [b0, b1, b2, b3] = [v * v * v, 3 * u[i] * v * v, 3 * u[i] * u[i] * v, u[i] * u[i] * u[i]];
    const [a1, a2] = [scale(t1, b1), scale(t2, b2)];
    const rest = sub(p[first + i], add(scale(a, b0 + b1), scale(b, b2 + b3)));
    c00 += dot(a1, a1);
    c01 += dot(a1, a2);
    c11 += dot(a2, a2);
    x0 += dot(a1, rest);
    x1 += dot(a2, rest);
  }
  const det = c00 * c11 - c01 * c01;
  const far = distance(a, b);
  let [l, r] = det > 1e-12 * c00 * c11 ? [(x0 * c11 - x1 * c01) / det, (c00 * x1 - c01 * x0) / det] : [0, 0];
  if (!(l > 1e-6 * far) || !(r > 1e-6 * far)) [l, r] = [far / 3, far / 3];
  return [a, add(a, scale(t1, l)), add(b, scale(t2, r)), b];
}

/** How chosen points are moved as a whole. */
export interface PointsMotion {
  about: Vec3;
  move?: Vec3;
  /** Radians about a unit axis. */
  turn?: { axis: Vec3; angle: number };
  size?: number;
}

/** Points turned and sized about a place, then moved; handles go along. */
export function movedPoint(p: PathPoint, m: PointsMotion): PathPoint {
  const turn = (v: Vec3): Vec3 => {
    const sized = scale(v, m.size ?? 1);
    return m.turn ? rotateAbout(sized, m.turn.axis, m.turn.angle) : sized;
  };
  const at = add(add(m.about, turn(sub(p.position, m.about))), m.move ?? [0, 0, 0]);
  return {
    ...p,
    position: at,
    handleIn: turn(p.handleIn),
    handleOut: turn(p.handleOut),
    fillet: p.fillet * (m.size ?? 1),
  };
}

/** The middle of points. */
export const middleOf = (points: readonly Vec3[]): Vec3 =>
  scale(
    points.reduce((sum, p) => add(sum, p), [0, 0, 0] as Vec3),
    1 / Math.max(1, points.length),
  );

/**
 * The direction square to the plane that lies nearest to points: the least eigenvector of their covariance, by
 * Jacobi rotations. Up for points on a line.
 */
export function planeNormal(points: readonly Vec3[]): Vec3 {
  const mid = middleOf(points);
  const m = [0, 1, 2].map((i) =>
    [0, 1, 2].map((j) => points.reduce((s, p) => s + (p[i] - mid[i]) * (p[j] - mid[j]), 0)),
  );
  const v: number[][] = [0, 1, 2].map((i) => [0, 1, 2].map((j) => (i === j ? 1 : 0)));
  for (let sweep = 0; sweep < 30; sweep++) {
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      if (Math.abs(m[p][q]) < 1e-300) continue;
      const angle = 0.5 * atan2(2 * m[p][q], m[q][q] - m[p][p]);
      const [c, s] = [cos(angle), sin(angle)];
      for (let k = 0; k < 3; k++) [m[k][p], m[k][q]] = [c * m[k][p] - s * m[k][q], s * m[k][p] + c * m[k][q]];
      for (let k = 0; k < 3; k++) [m[p][k], m[q][k]] = [c * m[p][k] - s * m[q][k], s * m[p][k] + c * m[q][k]];
      for (let k = 0; k < 3; k++) [v[k][p], v[k][q]] = [c * v[k][p] - s * v[k][q], s * v[k][p] + c * v[k][q]];
    }
  }
  const order = [0, 1, 2].sort((a, b) => m[a][a] - m[b][b]);
  // On a line two of the three are nothing: no plane is nearer than another.
  if (m[order[1]][order[1]] <= 1e-12 * m[order[2]][order[2]]) return [0, 1, 0];
  const n: Vec3 = [v[0][order[0]], v[1][order[0]], v[2][order[0]]];
  return normalize(n[1] < 0 ? scale(n, -1) : n, [0, 1, 0]);
}
