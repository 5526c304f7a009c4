import type { Vec3 } from '../math/vec3';
import { arcLengthAt, pointAt } from './sample';
import type { CompiledPath } from './compile';

/** The place on a path that is nearest to a point. */
export interface Nearest {
  s: number;
  position: Vec3;
  distance: number;
  segment: number;
  t: number;
}

/**
 * Nearest place on the path: each segment is cut until a piece's control hull cannot beat the best found, and
 * the survivors are refined by Newton. Ties go to the smaller s.
 * @returns distance in metres, exact to about 1e-9 of the path's size
 */
export function nearestOnPath(path: CompiledPath, point: Vec3): Nearest {
  const p = path.powers;
  let best = { d2: Infinity, k: 0, t: 0 };
  const d2At = (k: number, t: number) => {
    let d2 = 0;
    for (let a = 0; a < 3; a++) {
      const o = k * 12 + a;
      const d = ((p[o] * t + p[o + 3]) * t + p[o + 6]) * t + p[o + 9] - point[a];
      d2 += d * d;
    }
    return d2;
  };
  const offer = (k: number, t: number) => {
    const d2 = d2At(k, t);
    if (d2 < best.d2 * (1 - 1e-13)) best = { d2, k, t };
  };
  for (let k = 0; k < path.segmentCount; k++) {
    offer(k, 0);
    offer(k, 1);
  }
  const search = (k: number, t0: number, t1: number, hull: number[], depth: number) => {
    if (hullDistance2(hull, point) > best.d2) return;
    const mid = (t0 + t1) / 2;
    offer(k, newton(p, k, mid, t0, t1, point));
    if (depth >= 26 || hullSize(hull) < 1e-9 * path.length) return;
    const [left, right] = halve(hull);
    search(k, t0, mid, left, depth + 1);
    search(k, mid, t1, right, depth + 1);
  };
  const order = Array.from({ length: path.segmentCount }, (_, k) => {
    const hull = Array.from(path.controls.subarray(k * 12, k * 12 + 12));
    return { k, hull, d: hullDistance2(hull, point) };
  }).sort((a, b) => a.d - b.d);
  for (const { k, hull } of order) search(k, 0, 1, hull, 0);
  const s = arcLengthAt(path, best.k, best.t);
  return { s, position: pointAt(path, s), distance: Math.sqrt(best.d2), segment: best.k, t: best.t };
}

/** Squared distance from a point to the box of four control points. */
function hullDistance2(hull: number[], point: Vec3): number {
  let d2 = 0;
  for (let a = 0; a < 3; a++) {
    const low = Math.min(hull[a], hull[3 + a], hull[6 + a], hull[9 + a]);
    const high = Math.max(hull[a], hull[3 + a], hull[6 + a], hull[9 + a]);
    const d = Math.max(low - point[a], 0, point[a] - high);
    d2 += d * d;
  }
  return d2;
}

function hullSize(hull: number[]): number {
  let size = 0;
  for (let i = 3; i < 12; i++) size = Math.max(size, Math.abs(hull[i] - hull[i % 3]));
  return size;
}

/** De Casteljau at one half. */
function halve(h: number[]): [number[], number[]] {
  const left = new Array<number>(12);
  const right = new Array<number>(12);
  for (let a = 0; a < 3; a++) {
    const [p0, p1, p2, p3] = [h[a], h[3 + a], h[6 + a], h[9 + a]];
    const q0 = (p0 + p1) / 2;
    const q1 = (p1 + p2) / 2;
    const q2 = (p2 + p3) / 2;
    const r0 = (q0 + q1) / 2;
    const r1 = (q1 + q2) / 2;
    const m = (r0 + r1) / 2;
    [left[a], left[3 + a], left[6 + a], left[9 + a]] = [p0, q0, r0, m];
    [right[a], right[3 + a], right[6 + a], right[9 + a]] = [m, r1, q2, p3];
  }
  return [left, right];
}

/** A few Newton steps on (P(t) − point)·P′(t) = 0, held to [t0, t1]. */
function newton(p: Float64Array, k: number, start: number, t0: number, t1: number, point: Vec3): number {
  let t = start;
  for (let round = 0; round < 6; round++) {
    let f = 0;
    let df = 0;
    for (let a = 0; a < 3; a++) {
      const o = k * 12 + a;
      const e = ((p[o] * t + p[o + 3]) * t + p[o + 6]) * t + p[o + 9] - point[a];
      const d = (3 * p[o] * t + 2 * p[o + 3]) * t + p[o + 6];
      f += e * d;
      df += d * d + e * (6 * p[o] * t + 2 * p[o + 3]);
    }
    if (!(df > 0)) break;
    const next = Math.min(t1, Math.max(t0, t - f / df));
    if (Math.abs(next - t) < 1e-15) break;
    t = next;
  }
  return t;
}
