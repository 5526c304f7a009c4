import type { Vec3 } from '../math/vec3';
import { evalQuintic, findSpan, lengthAt, parameterAt } from './arcLength';
import type { CompiledPath } from './compile';
import { acos, hypot } from '../math/portable';

/** Positions and unit tangents along a path, three numbers each. */
export interface Samples {
  position: Float64Array;
  tangent: Float64Array;
}

/** Length `s` brought onto the path: wrapped where it is closed, held to the ends where it is open. */
export function onPath(path: CompiledPath, s: number): number {
  if (!path.closed) return Math.min(path.length, Math.max(0, s));
  const wrapped = s % path.length;
  return wrapped < 0 ? wrapped + path.length : wrapped;
}

/**
 * Samples a path at many lengths. Lengths in rising order are fastest, any order works.
 * At a corner the direction is the middle one of both sides.
 * @param s metres along the path; outside it they wrap (closed) or stop at the ends (open)
 */
export function samplePath(path: CompiledPath, s: ArrayLike<number>): Samples {
  const n = s.length;
  const out = { position: new Float64Array(n * 3), tangent: new Float64Array(n * 3) };
  // One sort of list only: a loop that has seen several reads each of them slowly.
  const lengths = s instanceof Float64Array ? s : Float64Array.from(s);
  const { table, powers: p, endTangents } = path;
  const { s0, s1, search, inverse, segment } = table;
  const { position, tangent } = out;
  const step = path.length / path.segmentCount;
  let span = 0;
  // All in one loop: numbers that are handed from function to function would each be an object on the heap.
  for (let i = 0; i < n; i++) {
    const at = onPath(path, lengths[i]);
    if (!(at >= s0[span] && at < s1[span])) span = findSpan(table, at, span);
    const h = s1[span] - s0[span];
    const t =
      h > 0 && search[span] === 0
        ? evalQuintic(inverse, span * 6, Math.min(1, Math.max(0, (at - s0[span]) / h)))
        : parameterAt(table, p, span, at);
    const k = segment[span];
    const o = k * 12;
    const r = i * 3;
    const ax = p[o];
    const ay = p[o + 1];
    const az = p[o + 2];
    const bx = p[o + 3];
    const by = p[o + 4];
    const bz = p[o + 5];
    const cx = p[o + 6];
    const cy = p[o + 7];
    const cz = p[o + 8];
    position[r] = ((ax * t + bx) * t + cx) * t + p[o + 9];
    position[r + 1] = ((ay * t + by) * t + cy) * t + p[o + 10];
    position[r + 2] = ((az * t + bz) * t + cz) * t + p[o + 11];
    const dx = (3 * ax * t + 2 * bx) * t + cx;
    const dy = (3 * ay * t + 2 * by) * t + cy;
    const dz = (3 * az * t + 2 * bz) * t + cz;
    const square = dx * dx + dy * dy + dz * dz;
    const size = Math.abs(ax) + Math.abs(ay) + Math.abs(az) + step;
    if (square > 1e-20 * size * size) {
      const l = 1 / Math.sqrt(square);
      tangent[r] = dx * l;
      tangent[r + 1] = dy * l;
      tangent[r + 2] = dz * l;
    } else {
      const end = k * 6 + (t > 0.5 ? 3 : 0);
      for (let axis = 0; axis < 3; axis++) tangent[r + axis] = endTangents[end + axis];
    }
  }
  if (path.corners.length > 0) softenCorners(path, s, out);
  return out;
}

function softenCorners(path: CompiledPath, s: ArrayLike<number>, out: Samples): void {
  const near = 1e-11 * path.length;
  const { corners, endTangents, table, segmentCount } = path;
  for (let i = 0; i < s.length; i++) {
    const at = onPath(path, s[i]);
    let low = 0;
    let high = corners.length - 1;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (corners[mid] < at - near) low = mid + 1;
      else high = mid;
    }
    const wraps = path.closed && corners[0] <= near && path.length - at <= near;
    if (!wraps && Math.abs(corners[low] - at) > near) continue;
    const corner = wraps ? corners[0] : corners[low];
    // Several zero-length segments may share this length: the side before it and the side after it count.
    let after = 0;
    while (after < segmentCount - 1 && table.segmentS[after + 1] <= corner + near) after++;
    let before = after;
    do before = before > 0 ? before - 1 : segmentCount - 1;
    while (before !== after && table.segmentS[before + 1] - table.segmentS[before] <= 0);
    let x = endTangents[before * 6 + 3] + endTangents[after * 6];
    let y = endTangents[before * 6 + 4] + endTangents[after * 6 + 1];
    let z = endTangents[before * 6 + 5] + endTangents[after * 6 + 2];
    const l = hypot(x, y, z);
    if (l < 1e-6) continue;
    out.tangent[i * 3] = x /= l;
    out.tangent[i * 3 + 1] = y /= l;
    out.tangent[i * 3 + 2] = z /= l;
  }
}

/** Position at one length. For many, use {@link samplePath}. */
export function pointAt(path: CompiledPath, s: number): Vec3 {
  const { position } = samplePath(path, [s]);
  return [position[0], position[1], position[2]];
}

/** Arc length at parameter t (0–1) of segment k. */
export function arcLengthAt(path: CompiledPath, k: number, t: number): number {
  return lengthAt(path.table, path.powers, k, t);
}

/** Value of a per-point quantity along the path, eased between points (smoothstep in arc length). */
export function alongPoints(path: CompiledPath, values: Float64Array, s: number): number {
  const at = onPath(path, s);
  const { pointS } = path;
  const n = pointS.length;
  let low = -1;
  let high = n - 1;
  while (low < high) {
    const mid = Math.ceil((low + high) / 2);
    if (pointS[mid] <= at) low = mid;
    else high = mid - 1;
  }
  let from = low;
  let start = low >= 0 ? pointS[low] : 0;
  if (low < 0) {
    if (!path.closed) return values[0];
    from = n - 1;
    start = pointS[n - 1] - path.length;
  }
  let to = from + 1;
  let end = to < n ? pointS[to] : path.length + pointS[0];
  if (to >= n) {
    if (!path.closed) return values[n - 1];
    to = 0;
  }
  if (low < 0) end = pointS[0];
  const u = end > start ? (at - start) / (end - start) : 0;
  const w = u * u * (3 - 2 * u);
  return values[from] + (values[to] - values[from]) * w;
}

/** Points and lengths for drawing: neighbours differ by at most about `turn` radians in direction. */
export function polyline(path: CompiledPath, turn = 0.06): { position: Float64Array; s: Float64Array } {
  const fine: number[] = [];
  const { table } = path;
  // The bend of every span, from three places each, all looked up in one walk.
  const spans: number[] = [];
  for (let i = 0; i < table.spanCount; i++) if (table.s1[i] - table.s0[i] > 1e-9 * path.length) spans.push(i);
  const marks = new Float64Array(spans.length * 3);
  spans.forEach((i, k) => {
    const h = table.s1[i] - table.s0[i];
    marks[k * 3] = table.s0[i] + h * 1e-6;
    marks[k * 3 + 1] = table.s0[i] + h / 2;
    marks[k * 3 + 2] = table.s1[i] - h * 1e-6;
  });
  const ends = samplePath(path, marks).tangent;
  /** Places where one span ends in another direction than the next begins: which of both a sample there has is not known. */
  const corners = new Set<number>();
  spans.forEach((i, k) => {
    const h = table.s1[i] - table.s0[i];
    const bend = angleAt(ends, k * 3, k * 3 + 1) + angleAt(ends, k * 3 + 1, k * 3 + 2);
    const pieces = Math.min(256, Math.max(1, Math.ceil(bend / turn)));
    if (k > 0 && angleAt(ends, k * 3 - 1, k * 3) > turn / 4) corners.add(fine.length);
    for (let j = 0; j < pieces; j++) fine.push(table.s0[i] + (h * j) / pieces);
  });
  fine.push(path.length);
  const { tangent } = samplePath(path, fine);
  // Spans are cut for exactness, far finer than the eye needs: only where the direction has changed is a point kept.
  const kept = [0];
  for (let i = 1; i < fine.length - 1; i++) {
    const last = kept[kept.length - 1];
    if (corners.has(i) || angleAt(tangent, last, i + 1) > turn || angleAt(tangent, i, i + 1) > turn / 4)
      kept.push(i);
  }
  kept.push(fine.length - 1);
  const s = Float64Array.from(kept, (i) => fine[i]);
  return { position: samplePath(path, s).position, s };
}

/** Angle between the unit vectors in rows i and j. */
function angleAt(v: Float64Array, i: number, j: number): number {
  const d = v[i * 3] * v[j * 3] + v[i * 3 + 1] * v[j * 3 + 1] + v[i * 3 + 2] * v[j * 3 + 2];
  return acos(Math.min(1, Math.max(-1, d)));
}
