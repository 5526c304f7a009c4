import type { Vec3 } from '../math/vec3';
import { arcLengthAt, pointAt } from './sample';
import type { CompiledPath } from './compile';
import { eachNear, segmentTree } from './segmentTree';

/** The place on a path that is nearest to a point. */
export interface Nearest {
  s: number;
  position: Vec3;
  distance: number;
  segment: number;
  t: number;
}

/**
 * Nearest place on the path, in time that grows with the logarithm of its segments. Those whose control hull cannot beat
 * the best found are passed over; on the others every root of the quintic (P(t) − point)·P′(t) is isolated in Bernstein
 * form by the variation of signs (de Casteljau halving) and closed in on. Ties go to the smaller s.
 * @returns distance in metres, exact to about 1e-9 of the path's size
 */
export function nearestOnPath(path: CompiledPath, point: Vec3): Nearest {
  const p = path.powers;
  let best = { d2: Infinity, k: 0, t: 0 };
  const offer = (k: number, t: number) => {
    let d2 = 0;
    for (let a = 0; a < 3; a++) {
      const o = k * 12 + a;
      const d = ((p[o] * t + p[o + 3]) * t + p[o + 6]) * t + p[o + 9] - point[a];
      d2 += d * d;
    }
    const better = d2 < best.d2 * (1 - 1e-12);
    const tie = d2 <= best.d2 * (1 + 1e-12) && (k < best.k || (k === best.k && t < best.t));
    if (better || tie) best = { d2: Math.min(d2, best.d2), k, t };
  };
  eachNear(
    segmentTree(path),
    point,
    () => best.d2,
    (k) => {
      if (hullDistance2(path.controls, k, point) > best.d2) return;
      offer(k, 0);
      offer(k, 1);
      eachRoot(slopeOfDistance(p, k, point), 0, 1, 0, (t) => offer(k, t));
    },
  );
  const s = arcLengthAt(path, best.k, best.t);
  return { s, position: pointAt(path, s), distance: Math.sqrt(best.d2), segment: best.k, t: best.t };
}

/** Squared distance from a point to the box around the control points of segment k. */
function hullDistance2(controls: Float64Array, k: number, point: Vec3): number {
  let d2 = 0;
  for (let a = 0; a < 3; a++) {
    const c = [0, 3, 6, 9].map((o) => controls[k * 12 + o + a]);
    const d = Math.max(Math.min(...c) - point[a], 0, point[a] - Math.max(...c));
    d2 += d * d;
  }
  return d2;
}

const BINOMIAL5 = [1, 5, 10, 10, 5, 1];

/** Bernstein coefficients on [0, 1] of (P(t) − point)·P′(t), a quintic. */
function slopeOfDistance(p: Float64Array, k: number, point: Vec3): number[] {
  const power = [0, 0, 0, 0, 0, 0];
  for (let a = 0; a < 3; a++) {
    const o = k * 12 + a;
    const e = [p[o + 9] - point[a], p[o + 6], p[o + 3], p[o]];
    const d = [e[1], 2 * e[2], 3 * e[3]];
    for (let i = 0; i < 4; i++) for (let j = 0; j < 3; j++) power[i + j] += e[i] * d[j];
  }
  // b_i = Σ_j C(i, j) / C(5, j) · a_j
  return power.map((_, i) => {
    let sum = 0;
    let choose = 1;
    for (let j = 0; j <= i; j++) {
      sum += (choose / BINOMIAL5[j]) * power[j];
      choose = (choose * (i - j)) / (j + 1);
    }
    return sum;
  });
}

function eachRoot(b: number[], t0: number, t1: number, depth: number, found: (t: number) => void): void {
  let largest = 0;
  for (const v of b) largest = Math.max(largest, Math.abs(v));
  if (largest === 0) return;
  let changes = 0;
  let last = 0;
  for (const v of b) {
    const sign = Math.abs(v) < 1e-15 * largest ? 0 : Math.sign(v);
    if (sign !== 0 && last !== 0 && sign !== last) changes++;
    if (sign !== 0) last = sign;
  }
  if (changes === 0) return;
  if (depth >= 48) return found((t0 + t1) / 2);
  if (changes === 1 && b[0] !== 0 && b[5] !== 0) return found(closeIn(b, t0, t1));
  const left = [b[0]];
  const right = [b[5]];
  let row = b;
  for (let level = 0; level < 5; level++) {
    row = row.slice(1).map((v, i) => (v + row[i]) / 2);
    left.push(row[0]);
    right.unshift(row[row.length - 1]);
  }
  const mid = (t0 + t1) / 2;
  if (right[0] === 0) found(mid);
  eachRoot(left, t0, mid, depth + 1, found);
  eachRoot(right, mid, t1, depth + 1, found);
}

function bernstein5(b: number[], u: number): number {
  const v = 1 - u;
  return (
    v * v * v * v * v * b[0] +
    5 * u * v * v * v * v * b[1] +
    10 * u * u * v * v * v * b[2] +
    10 * u * u * u * v * v * b[3] +
    5 * u * u * u * u * v * b[4] +
    u * u * u * u * u * b[5]
  );
}

/** The one root between ends of different sign: Illinois false position, then halving where that stalls. */
function closeIn(b: number[], t0: number, t1: number): number {
  let low = 0;
  let high = 1;
  let fl = b[0];
  let fh = b[5];
  for (let round = 0; round < 80 && high - low > 1e-16; round++) {
    const u = round % 3 === 2 ? (low + high) / 2 : (low * fh - high * fl) / (fh - fl);
    const f = bernstein5(b, u);
    if (f === 0 || !(u > low && u < high)) return t0 + (t1 - t0) * u;
    if (Math.sign(f) === Math.sign(fl)) {
      low = u;
      fl = f;
      fh /= 2;
    } else {
      high = u;
      fh = f;
      fl /= 2;
    }
    if (high - low < 1e-15) break;
  }
  return t0 + ((t1 - t0) * (low + high)) / 2;
}
