import type { ArcLengthTable } from './arcLength';
import { findEndTangents, powersOf, type CompiledPath } from './compile';

/** What is known of a path that was laid from place to place. */
export interface Laid {
  /** xyz a place; a loop does not come back to its first one. */
  position: Float64Array;
  /** For each of the path's points, its place. */
  asked: Int32Array;
  on: CompiledPath['on'];
}

/**
 * A path along straight pieces that stands for a smooth one: its points, corners, sizes, rolls and zones are those of
 * `rest`. Lengths are those of the pieces, exactly. @returns null where it has no length
 */
export function compileLaid(rest: CompiledPath, laid: Laid): CompiledPath | null {
  const { position, asked } = laid;
  const places = position.length / 3;
  const count = rest.closed ? places : places - 1;
  const controls = new Float64Array(count * 12);
  for (let k = 0; k < count; k++)
    for (let a = 0; a < 3; a++) {
      const from = position[k * 3 + a];
      const to = position[((k + 1) % places) * 3 + a];
      const o = k * 12 + a;
      controls[o] = from;
      controls[o + 3] = from + (to - from) / 3;
      controls[o + 6] = to - (to - from) / 3;
      controls[o + 9] = to;
    }
  const powers = powersOf(controls);
  // What is straight has no bend at all, whatever rounding says.
  for (let k = 0; k < count; k++) {
    powers.fill(0, k * 12, k * 12 + 6);
    for (let a = 0; a < 3; a++)
      powers[k * 12 + 6 + a] = position[((k + 1) % places) * 3 + a] - position[k * 3 + a];
  }
  const table = straightTable(powers, count);
  const length = table.segmentS[count];
  if (!(length > 1e-9)) return null;
  const corners: number[] = [];
  const segmentPoint = new Int32Array(count);
  const n = asked.length;
  for (let i = 0; i < n; i++) {
    const begin = asked[i];
    const end = i + 1 < n ? asked[i + 1] : count;
    segmentPoint.fill(rest.firstPoint + i, begin, end);
    const ends = !rest.closed && (i === 0 || i === n - 1);
    if (rest.isCorner[i] && !ends && isSharp(rest, i)) corners.push(table.segmentS[begin]);
  }
  return {
    ...rest,
    length,
    segmentCount: count,
    controls,
    powers,
    endTangents: findEndTangents(controls, count, rest.closed),
    table,
    pointS: Float64Array.from(asked, (k) => table.segmentS[k]),
    segmentPoint,
    corners: Float64Array.from(corners),
    on: laid.on,
    like: rest,
  };
}

/**
 * Where a place of the material is along a path now. Segments are straight at rest and now, so that shares of them
 * stay. Past an open end it goes on by as much.
 * @param s metres along the path at rest @returns metres along the path as it lies
 */
export function carriedLength(path: CompiledPath, s: number): number {
  const { rest } = path;
  if (!rest) return s;
  if (!rest.closed && s <= 0) return s;
  if (!rest.closed && s >= rest.length) return path.length + (s - rest.length);
  const laps = Math.floor(s / rest.length);
  const at = rest.closed ? s - laps * rest.length : s;
  const from = rest.table.segmentS;
  let low = 0;
  let high = rest.segmentCount - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (from[middle] <= at) low = middle;
    else high = middle - 1;
  }
  const wide = from[low + 1] - from[low];
  const share = wide > 0 ? Math.min(1, (at - from[low]) / wide) : 0;
  const to = path.table.segmentS;
  return (rest.closed ? laps * path.length : 0) + to[low] + (to[low + 1] - to[low]) * share;
}

/** Whether the path turns at once at its point: a corner with a fillet does not. */
const isSharp = (path: CompiledPath, point: number) =>
  path.corners.some((s) => Math.abs(s - path.pointS[point]) < 1e-9 * path.length);

/** The arc lengths of straight segments: one span each, even all along. */
function straightTable(powers: Float64Array, count: number): ArcLengthTable {
  const table: ArcLengthTable = {
    spanCount: count,
    segment: Int32Array.from({ length: count }, (_, k) => k),
    t0: new Float64Array(count),
    t1: new Float64Array(count).fill(1),
    s0: new Float64Array(count),
    s1: new Float64Array(count),
    inverse: new Float64Array(count * 6),
    search: new Uint8Array(count),
    segmentS: new Float64Array(count + 1),
  };
  for (let k = 0; k < count; k++) {
    const [x, y, z] = [powers[k * 12 + 6], powers[k * 12 + 7], powers[k * 12 + 8]];
    table.s0[k] = table.segmentS[k];
    table.s1[k] = table.segmentS[k + 1] = table.segmentS[k] + Math.sqrt(x * x + y * y + z * z);
    table.inverse[k * 6 + 1] = 1;
  }
  return table;
}
