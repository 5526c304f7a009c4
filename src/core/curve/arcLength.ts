import { gaussLegendre } from '../math/gauss';

/**
 * Arc length of piecewise cubics, both ways. Each segment is cut into spans on which 16-point Gauss–Legendre
 * is exact to rounding and the inverse t(s) is one quintic (Hermite: value, slope and curvature of t(s) at both
 * ends, dt/ds = 1/v, d²t/ds² = −v′/v³). Spans that cannot be fitted (a cusp: v → 0) end tiny and are inverted by
 * a safeguarded Newton search. Looking a length up is then a polynomial, with no iteration.
 */
export interface ArcLengthTable {
  spanCount: number;
  segment: Int32Array;
  t0: Float64Array;
  t1: Float64Array;
  s0: Float64Array;
  s1: Float64Array;
  /** Six coefficients a span of t in u = (s − s0) / (s1 − s0). */
  inverse: Float64Array;
  /** 1 where the quintic does not hold and a search is needed. */
  search: Uint8Array;
  /** Arc length at the start of each segment, and the total as the last entry. */
  segmentS: Float64Array;
}

const RULE = gaussLegendre(16);
const MAX_DEPTH = 44;
const FIT = 2e-12;
/** Segments shorter than this (metres) are one straight span: their squares lose digits to underflow. */
const NEGLIGIBLE = 1e-12;
/** No real segment comes near this many spans; rounding that never settles must not run away. */
const MAX_SPANS = 4096;

/** Speed |P′(t)| of segment k. */
export function speedAt(powers: Float64Array, k: number, t: number): number {
  const o = k * 12;
  const x = (3 * powers[o] * t + 2 * powers[o + 3]) * t + powers[o + 6];
  const y = (3 * powers[o + 1] * t + 2 * powers[o + 4]) * t + powers[o + 7];
  const z = (3 * powers[o + 2] * t + 2 * powers[o + 5]) * t + powers[o + 8];
  return Math.sqrt(x * x + y * y + z * z);
}

/** Length of segment k between two parameters by one 16-point rule. */
function integrate(powers: Float64Array, k: number, a: number, b: number): number {
  const half = (b - a) / 2;
  const mid = (a + b) / 2;
  let sum = 0;
  for (let i = 0; i < 16; i++) sum += RULE.weights[i] * speedAt(powers, k, mid + half * RULE.nodes[i]);
  return sum * half;
}

/** d²t/ds² at t. */
function inverseCurvature(powers: Float64Array, k: number, t: number, v: number): number {
  const o = k * 12;
  let d = 0;
  for (let axis = 0; axis < 3; axis++) {
    const first = (3 * powers[o + axis] * t + 2 * powers[o + 3 + axis]) * t + powers[o + 6 + axis];
    const second = 6 * powers[o + axis] * t + 2 * powers[o + 3 + axis];
    d += first * second;
  }
  return -d / (v * v * v * v);
}

function quintic(powers: Float64Array, k: number, t0: number, t1: number, h: number): number[] | null {
  const v0 = speedAt(powers, k, t0);
  const v1 = speedAt(powers, k, t1);
  if (!(v0 > 0) || !(v1 > 0)) return null;
  const c1 = h / v0;
  const c2 = (h * h * inverseCurvature(powers, k, t0, v0)) / 2;
  const e1 = h * h * inverseCurvature(powers, k, t1, v1);
  const d = t1 - t0 - c1 - c2;
  const d1 = h / v1 - c1 - 2 * c2;
  const d2 = e1 - 2 * c2;
  const out = [t0, c1, c2, 10 * d - 4 * d1 + d2 / 2, -15 * d + 7 * d1 - d2, 6 * d - 3 * d1 + d2 / 2];
  return out.every(Number.isFinite) ? out : null;
}

/** The parameter at a share `u` of a span, by the six coefficients of its inverse from `o` on. */
export const evalQuintic = (c: ArrayLike<number>, o: number, u: number) =>
  ((((c[o + 5] * u + c[o + 4]) * u + c[o + 3]) * u + c[o + 2]) * u + c[o + 1]) * u + c[o];

/** Spans of one segment: parameters and lengths, and six inverse coefficients each. */
interface SegmentSpans {
  /** The segment's own power coefficients, to know it again by. */
  powers: Float64Array;
  t0: number[];
  t1: number[];
  h: number[];
  inverse: number[];
  search: number[];
}

/**
 * Segments cut before, so that a moved point costs only the segments beside it. A slot of the list holds the last
 * segment that came to it; its coefficients are compared whole, so what is found never depends on what came before.
 */
const KEPT = 8192;
const kept: (SegmentSpans | undefined)[] = new Array(KEPT);

const bits = new Float64Array(12);
const words = new Uint32Array(bits.buffer);

function spansOf(powers: Float64Array, k: number): SegmentSpans {
  for (let i = 0; i < 12; i++) bits[i] = powers[k * 12 + i];
  let hash = 0;
  for (let i = 0; i < 24; i++) hash = Math.imul(hash ^ words[i], 0x9e3779b1) ^ (hash >>> 15);
  const place = (hash >>> 0) % KEPT;
  const have = kept[place];
  if (have && have.powers.every((v, i) => v === bits[i])) return have;
  return (kept[place] = cutSegment(bits.slice()));
}

function cutSegment(powers: Float64Array): SegmentSpans {
  const out: SegmentSpans = { powers, t0: [], t1: [], h: [], inverse: [], search: [] };
  const rough = integrate(powers, 0, 0, 1);
  const push = (t0: number, t1: number, h: number, c: number[] | null) => {
    out.t0.push(t0);
    out.t1.push(t1);
    out.h.push(h);
    out.inverse.push(...(c ?? [t0, t1 - t0, 0, 0, 0, 0]));
    out.search.push(c ? 0 : 1);
  };
  const cut = (t0: number, t1: number, whole: number, depth: number) => {
    const mid = (t0 + t1) / 2;
    const left = integrate(powers, 0, t0, mid);
    const right = integrate(powers, 0, mid, t1);
    const h = left + right;
    const last = depth >= MAX_DEPTH || h <= 1e-13 * rough || out.t0.length > MAX_SPANS;
    if (last || Math.abs(h - whole) <= 1e-14 * rough) {
      const c = quintic(powers, 0, t0, t1, h);
      if (c && fits(powers, 0, t0, mid, left, h, c, FIT * rough)) return push(t0, t1, h, c);
      if (last) return push(t0, t1, h, null);
    }
    cut(t0, mid, left, depth + 1);
    cut(mid, t1, right, depth + 1);
  };
  if (rough > NEGLIGIBLE) cut(0, 1, rough, 0);
  else push(0, 1, rough > 0 ? rough : 0, [0, 1, 0, 0, 0, 0]);
  return out;
}

/** Builds the table for `count` segments in power basis (12 numbers each). */
export function buildArcLength(powers: Float64Array, count: number): ArcLengthTable {
  const parts = Array.from({ length: count }, (_, k) => spansOf(powers, k));
  const spanCount = parts.reduce((sum, p) => sum + p.h.length, 0);
  const table: ArcLengthTable = {
    spanCount,
    segment: new Int32Array(spanCount),
    t0: new Float64Array(spanCount),
    t1: new Float64Array(spanCount),
    s0: new Float64Array(spanCount),
    s1: new Float64Array(spanCount),
    inverse: new Float64Array(spanCount * 6),
    search: new Uint8Array(spanCount),
    segmentS: new Float64Array(count + 1),
  };
  let s = 0;
  let i = 0;
  parts.forEach((part, k) => {
    table.segmentS[k] = s;
    table.t0.set(part.t0, i);
    table.t1.set(part.t1, i);
    table.inverse.set(part.inverse, i * 6);
    table.search.set(part.search, i);
    for (const h of part.h) {
      table.segment[i] = k;
      table.s0[i] = s;
      s += h;
      table.s1[i] = s;
      i++;
    }
  });
  table.segmentS[count] = s;
  return table;
}

/** Whether t(s) lands within `tolerance` metres at three inner places of the span. */
function fits(
  powers: Float64Array,
  k: number,
  t0: number,
  mid: number,
  left: number,
  h: number,
  c: number[],
  tolerance: number,
): boolean {
  for (const u of [0.5, 0.21, 0.79]) {
    const t = evalQuintic(c, 0, u);
    const s = t > mid ? left + integrate(powers, k, mid, t) : integrate(powers, k, t0, t);
    if (!(Math.abs(s - u * h) <= tolerance)) return false;
  }
  return true;
}

/** The span that holds length `s` (the later one at a joint). `hint` makes walks along the path O(1). */
export function findSpan(table: ArcLengthTable, s: number, hint = 0): number {
  const { s0, s1, spanCount } = table;
  if (s >= s0[hint] && s < s1[hint]) return hint;
  if (hint + 1 < spanCount && s >= s0[hint + 1] && s < s1[hint + 1]) return hint + 1;
  let low = 0;
  let high = spanCount - 1;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (s < s1[mid]) high = mid;
    else low = mid + 1;
  }
  return low;
}

/** Parameter t within the span's segment at length `s`; `s` is held to the span. */
export function parameterAt(table: ArcLengthTable, powers: Float64Array, span: number, s: number): number {
  const a = table.s0[span];
  const h = table.s1[span] - a;
  if (!(h > 0)) return table.t0[span];
  const u = Math.min(1, Math.max(0, (s - a) / h));
  if (!table.search[span]) return evalQuintic(table.inverse, span * 6, u);
  const k = table.segment[span];
  let low = table.t0[span];
  let high = table.t1[span];
  let t = low + (high - low) * u;
  for (let round = 0; round < 60 && high - low > 1e-16; round++) {
    const error = integrate(powers, k, table.t0[span], t) - u * h;
    if (error > 0) high = t;
    else low = t;
    const v = speedAt(powers, k, t);
    const next = v > 0 ? t - error / v : NaN;
    if (Math.abs(error) <= 1e-16 * h) break;
    t = next > low && next < high ? next : (low + high) / 2;
  }
  return t;
}

/** Arc length at parameter t of segment k. */
export function lengthAt(table: ArcLengthTable, powers: Float64Array, k: number, t: number): number {
  let low = 0;
  let high = table.spanCount - 1;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (table.segment[mid] > k || (table.segment[mid] === k && table.t1[mid] >= t)) high = mid;
    else low = mid + 1;
  }
  if (table.segment[low] !== k) return table.segmentS[k];
  return table.s0[low] + (t > table.t0[low] ? integrate(powers, k, table.t0[low], t) : 0);
}
