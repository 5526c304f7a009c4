import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import type { Vec3 } from '../../math/vec3';

/** Where a line that closes crosses itself, seen from above: what it goes round twice is not inside. */

const known = new WeakMap<CompiledPath, Vec3 | null>();
/** Radians from one straight piece to the next. */
const TURN = 0.005;

/** The first crossing of a closed stroke that is found; null where there is none. */
export function selfCrossing(stroke: CompiledPath): Vec3 | null {
  let at = known.get(stroke);
  if (at === undefined) known.set(stroke, (at = crossingOf(polyline(stroke, TURN).position)));
  return at;
}

/**
 * @param ring x, y, z of each of its places
 * @returns the first crossing that is found, on the one of its lines; null where there is none. What only touches does
 * not cross.
 */
export function crossingOf(ring: ArrayLike<number>): Vec3 | null {
  const line = withoutTwice(ring);
  const n = line.length;
  const wide = [0, 2].map((a) => {
    let [low, high] = [Infinity, -Infinity];
    for (const p of line) {
      low = Math.min(low, p[a]);
      high = Math.max(high, p[a]);
    }
    return high - low;
  });
  // Swept along the way that it is widest, edge by edge, past those that have not ended yet.
  const axis = wide[0] >= wide[1] ? 0 : 2;
  const starts = (i: number) => Math.min(line[i][axis], line[(i + 1) % n][axis]);
  const ends = (i: number) => Math.max(line[i][axis], line[(i + 1) % n][axis]);
  const order = Array.from({ length: n }, (_, i) => i).sort((a, b) => starts(a) - starts(b) || a - b);
  let open: number[] = [];
  for (const i of order) {
    const from = starts(i);
    open = open.filter((j) => ends(j) >= from);
    for (const j of open) {
      const met = meeting(line, i, j) ?? through(line, i, j) ?? through(line, j, i);
      if (met) return met;
    }
    open.push(i);
  }
  return null;
}

/** The places of a ring, those that follow each other in one place once. */
function withoutTwice(ring: ArrayLike<number>): Vec3[] {
  const all = Array.from({ length: ring.length / 3 }, (_, i): Vec3 => [
    ring[i * 3],
    ring[i * 3 + 1],
    ring[i * 3 + 2],
  ]);
  return all.filter((p, i) => {
    const last = all[(i || all.length) - 1];
    return p[0] !== last[0] || p[2] !== last[2];
  });
}

/** On which side of the straight line from a to b a place is: its sign. */
const side = (a: Vec3, b: Vec3, p: Vec3) => (b[0] - a[0]) * (p[2] - a[2]) - (b[2] - a[2]) * (p[0] - a[0]);

/** Where two edges cross between their ends. */
function meeting(line: Vec3[], i: number, j: number): Vec3 | null {
  const [a, b] = [line[i], line[(i + 1) % line.length]];
  const [c, d] = [line[j], line[(j + 1) % line.length]];
  const [s, t] = [side(c, d, a), side(c, d, b)];
  if (!(s * t < 0) || !(side(a, b, c) * side(a, b, d) < 0)) return null;
  const k = s / (s - t);
  return [0, 1, 2].map((axis) => a[axis] + (b[axis] - a[axis]) * k) as Vec3;
}

/** Where the line goes on to the other side of the edge j, or of where that begins, at the beginning of the edge i. */
function through(line: Vec3[], i: number, j: number): Vec3 | null {
  const n = line.length;
  const at = line[i];
  const [c, d] = [line[j], line[(j + 1) % n]];
  if (i === j || side(c, d, at) !== 0) return null;
  const begins = at[0] === c[0] && at[2] === c[2];
  const between = (at[0] - c[0]) * (at[0] - d[0]) + (at[2] - c[2]) * (at[2] - d[2]) < 0;
  if (!begins && !between) return null;
  const [before, after] = [line[(i + n - 1) % n], line[(i + 1) % n]];
  const back = begins ? line[(j + n - 1) % n] : c;
  return isWithin(at, before, after, back) !== isWithin(at, before, after, d) ? at : null;
}

/** Whether a way from a place lies between two others, gone round from the first to the second. */
function isWithin(at: Vec3, from: Vec3, to: Vec3, way: Vec3): boolean {
  const [a, b] = [side(at, from, way) > 0, side(at, way, to) > 0];
  return side(at, from, to) > 0 ? a && b : a || b;
}
