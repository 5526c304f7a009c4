import type { CompiledPath } from './compile';
import { atan2 } from '../math/portable';

/** How a path bends. */
export interface CurveMetrics {
  /** Whole turns of direction, all bends added up. */
  turns: number;
  /** The least radius of curvature, metres; 0 where there is a sharp corner, Infinity where it is straight. */
  tightest: number;
  /** Where that is, metres along. */
  tightestS: number;
  /** The same between the corners. */
  tightestBend: number;
  tightestBendS: number;
  /** The greatest turn at one corner, radians. */
  sharpest: number;
  sharpestS: number;
}

const kept = new WeakMap<CompiledPath, CurveMetrics>();

const STEPS = 24;

/** Bends of one stroke, from the exact curvature |P′ × P″| / |P′|³ at 24 places a segment and between its corners. */
export function metricsOf(path: CompiledPath): CurveMetrics {
  let made = kept.get(path);
  if (!made) kept.set(path, (made = path.like ? scaled(metricsOf(path.like), path) : measure(path)));
  return made;
}

/** Bends of a path by those of the smooth one that it stands for, which may be longer or shorter. */
function scaled(of: CurveMetrics, path: CompiledPath): CurveMetrics {
  const k = path.length / path.like!.length;
  return {
    ...of,
    tightest: of.tightest * k,
    tightestS: of.tightestS * k,
    tightestBend: of.tightestBend * k,
    tightestBendS: of.tightestBendS * k,
    sharpestS: of.sharpestS * k,
  };
}

function measure(path: CompiledPath): CurveMetrics {
  let turns = 0;
  let tightest = Infinity;
  let tightestS = 0;
  let sharpest = 0;
  let sharpestS = 0;
  const tangent = (k: number, end: 0 | 1) => path.endTangents.subarray(k * 6 + end * 3, k * 6 + end * 3 + 3);
  const way = new Float64Array(3);
  const last = new Float64Array(3);
  for (let k = 0; k < path.segmentCount; k++) {
    const before = k > 0 ? k - 1 : path.closed ? path.segmentCount - 1 : -1;
    if (before >= 0) {
      const corner = between(tangent(before, 1), tangent(k, 0));
      turns += corner;
      if (corner > sharpest) [sharpest, sharpestS] = [corner, path.table.segmentS[k]];
    }
    const long = path.table.segmentS[k + 1] - path.table.segmentS[k];
    if (!(long > 1e-9 * path.length)) continue;
    last.set(tangent(k, 0));
    for (let i = 0; i <= STEPS; i++) {
      const t = i / STEPS;
      way.set(last);
      const radius = bend(path, k, t, way);
      if (radius < tightest) [tightest, tightestS] = [radius, path.table.segmentS[k] + long * t];
      if (i === STEPS) way.set(tangent(k, 1));
      if (i > 0) turns += between(last, way);
      last.set(way);
    }
  }
  const [cornered] = path.corners;
  return {
    turns: turns / (2 * Math.PI),
    tightest: cornered === undefined ? tightest : 0,
    tightestS: cornered ?? tightestS,
    tightestBend: tightest,
    tightestBendS: tightestS,
    sharpest,
    sharpestS,
  };
}

/** Radius of curvature at a place, and its direction written to `way`; Infinity where the path stands or is straight. */
function bend(path: CompiledPath, k: number, t: number, way: Float64Array): number {
  const q = path.powers;
  const o = k * 12;
  const dx = (3 * q[o] * t + 2 * q[o + 3]) * t + q[o + 6];
  const dy = (3 * q[o + 1] * t + 2 * q[o + 4]) * t + q[o + 7];
  const dz = (3 * q[o + 2] * t + 2 * q[o + 5]) * t + q[o + 8];
  const ex = 6 * q[o] * t + 2 * q[o + 3];
  const ey = 6 * q[o + 1] * t + 2 * q[o + 4];
  const ez = 6 * q[o + 2] * t + 2 * q[o + 5];
  const v = Math.sqrt(dx * dx + dy * dy + dz * dz);
  if (!(v > 1e-12 * path.length)) return Infinity;
  way[0] = dx / v;
  way[1] = dy / v;
  way[2] = dz / v;
  const cx = dy * ez - dz * ey;
  const cy = dz * ex - dx * ez;
  const cz = dx * ey - dy * ex;
  const c = Math.sqrt(cx * cx + cy * cy + cz * cz);
  return c > 1e-12 * v * v * v ? (v * v * v) / c : Infinity;
}

/** Angle between unit vectors. */
function between(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const x = a[1] * b[2] - a[2] * b[1];
  const y = a[2] * b[0] - a[0] * b[2];
  const z = a[0] * b[1] - a[1] * b[0];
  return atan2(Math.sqrt(x * x + y * y + z * z), a[0] * b[0] + a[1] * b[1] + a[2] * b[2]);
}
