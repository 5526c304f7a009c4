import type { PathPoint } from './schema';
import { distance, type Vec3 } from '../math/vec3';
import { splitStrokes } from './compile';
import { mergeStrokes, reversePoints } from './edit';

/** Taking strokes apart and putting them together. All work on a path's own list of points. */

const copyOf = (p: PathPoint, id: string): PathPoint => ({ ...p, id, begins: false });

/**
 * Cuts a stroke at a point: an open one into two that end and begin there, a loop into one open stroke.
 * @param id for the point that stands there a second time @returns the points, and whether loops stay closed
 */
export function splitAtPoint(
  points: readonly PathPoint[],
  closed: boolean,
  point: string,
  id: string,
): { points: PathPoint[]; closed: boolean } {
  const strokes = splitStrokes([...points], closed).map((s) => s.points);
  const k = strokes.findIndex((s) => s.some((p) => p.id === point));
  if (k < 0) return { points: [...points], closed };
  const own = strokes[k];
  const i = own.findIndex((p) => p.id === point);
  if (closed) {
    // Only the cut one opens: with other loops in the path those are given their first point again at their end.
    strokes[k] = [...own.slice(i), ...own.slice(0, i), copyOf(own[i], id)];
    const opened = strokes.map((s, n) => (n === k ? s : [...s, copyOf(s[0], `${id}_${n}`)]));
    return { points: mergeStrokes(opened), closed: false };
  }
  if (i === 0 || i === own.length - 1) return { points: [...points], closed };
  strokes.splice(k, 1, own.slice(0, i + 1), [copyOf(own[i], id), ...own.slice(i + 1)]);
  return { points: mergeStrokes(strokes), closed };
}

/** Puts two lists of one stroke each together at their nearest ends; the first keeps its direction. */
export function joinEnds(a: readonly PathPoint[], b: readonly PathPoint[]): PathPoint[] {
  const end = (list: readonly PathPoint[], last: boolean): Vec3 => list[last ? list.length - 1 : 0].position;
  const ways = [
    { d: distance(end(a, true), end(b, false)), make: () => [...a, ...b] },
    { d: distance(end(a, true), end(b, true)), make: () => [...a, ...reversePoints(b)] },
    { d: distance(end(a, false), end(b, true)), make: () => [...b, ...a] },
    { d: distance(end(a, false), end(b, false)), make: () => [...reversePoints(b), ...a] },
  ];
  return ways
    .reduce((best, w) => (w.d < best.d ? w : best))
    .make()
    .map((p) => ({ ...p, begins: false }));
}

/** Makes one point of neighbours in a stroke that lie within `within` metres, and closes a stroke whose ends meet. */
export function weldEnds(
  points: readonly PathPoint[],
  closed: boolean,
  within: number,
): { points: PathPoint[]; closed: boolean } {
  let strokes = splitStrokes([...points], closed).map((s) => [...s.points]);
  if (closed) return { points: [...points], closed };
  const near = (p: PathPoint, q: PathPoint) => distance(p.position, q.position) <= within;
  for (let again = true; again;) {
    again = false;
    for (let i = 0; i < strokes.length && !again; i++)
      for (let j = i + 1; j < strokes.length && !again; j++) {
        const [a, b] = [strokes[i], strokes[j]];
        const ends = [a[0], a[a.length - 1]].some((p) => [b[0], b[b.length - 1]].some((q) => near(p, q)));
        if (!ends) continue;
        strokes[i] = withoutDoubles(joinEnds(a, b), within);
        strokes = strokes.filter((_, n) => n !== j);
        again = true;
      }
  }
  const [only] = strokes;
  const loops = strokes.length === 1 && only.length > 3 && near(only[0], only[only.length - 1]);
  if (loops) {
    const last = only.pop()!;
    only[0] = { ...only[0], handleIn: last.handleIn };
  }
  return { points: mergeStrokes(strokes), closed: loops };
}

function withoutDoubles(points: PathPoint[], within: number): PathPoint[] {
  const out: PathPoint[] = [];
  for (const p of points) {
    const last = out[out.length - 1];
    if (last && distance(last.position, p.position) <= within) {
      out[out.length - 1] = { ...last, handleOut: p.handleOut, zone: p.zone };
    } else out.push(p);
  }
  return out;
}
