import { cross, dot, sub, type Vec3 } from '../../math/vec3';

/** Points nearer to a face than this share of the size of all are taken to be on it. */
const ON_FACE = 1e-11;

interface Side {
  corners: [number, number, number];
  normal: Vec3;
  at: number;
  /** Points outside it that no other has. */
  outside: number[];
  isGone: boolean;
}

/**
 * The convex hull of points: Quickhull (Barber, Dobkin, Huhdanpaa 1996), always growing to the point that is furthest
 * out; of equals the one furthest from the middle, so that corners come before what lies on a side.
 * @param points distinct @returns three indices a triangle, counter-clockwise from outside; null where the points lie
 * in a plane or are too near to it to tell
 */
export function convexHull(points: readonly Vec3[]): [number, number, number][] | null {
  const first = tetrahedron(points);
  if (!first) return null;
  const [a, b, c, d] = first.corners;
  const on = first.size * ON_FACE;
  const sides: Side[] = [];
  const add = (p: number, q: number, r: number): Side | null => {
    const n = cross(sub(points[q], points[p]), sub(points[r], points[p]));
    const l = Math.sqrt(dot(n, n));
    if (!(l > on * on)) return null;
    const normal: Vec3 = [n[0] / l, n[1] / l, n[2] / l];
    const side: Side = { corners: [p, q, r], normal, at: dot(normal, points[p]), outside: [], isGone: false };
    sides.push(side);
    return side;
  };
  const give = (to: readonly Side[], those: Iterable<number>) => {
    for (const i of those) {
      const out = to.find((s) => dot(s.normal, points[i]) - s.at > on);
      out?.outside.push(i);
    }
  };
  const start = [add(a, b, c), add(a, d, b), add(b, d, c), add(c, d, a)];
  if (start.some((s) => !s)) return null;
  give(
    start as Side[],
    points.map((_, i) => i).filter((i) => !first.corners.includes(i)),
  );
  for (let at = 0; at < sides.length; at++) {
    const side = sides[at];
    if (side.isGone || side.outside.length === 0) continue;
    const tip = furthest(points, side, first.middle);
    const seen = sides.filter((s) => !s.isGone && dot(s.normal, points[tip]) - s.at > on);
    const rim = rimOf(seen);
    const left = seen.flatMap((s) => s.outside).filter((i) => i !== tip);
    for (const s of seen) s.isGone = true;
    const made: Side[] = [];
    for (const [p, q] of rim) {
      const one = add(p, q, tip);
      if (!one) return null;
      made.push(one);
    }
    give(made, left);
  }
  return sides.filter((s) => !s.isGone).map((s) => s.corners);
}

/** Sides of triangles that none of the others has the other way round. */
function rimOf(sides: readonly Side[]): [number, number][] {
  const all = new Map<string, [number, number]>();
  for (const { corners } of sides)
    for (let k = 0; k < 3; k++)
      all.set(`${corners[k]} ${corners[(k + 1) % 3]}`, [corners[k], corners[(k + 1) % 3]]);
  return [...all.values()].filter(([p, q]) => !all.has(`${q} ${p}`));
}

function furthest(points: readonly Vec3[], side: Side, middle: Vec3): number {
  let best = -1;
  let [far, aside] = [-Infinity, -Infinity];
  for (const i of side.outside) {
    const out = dot(side.normal, points[i]) - side.at;
    const away = sub(points[i], middle);
    const from = dot(away, away);
    if (out < far || (out === far && from <= aside)) continue;
    [best, far, aside] = [i, out, from];
  }
  return best;
}

/** Four points that are far apart, the first three counter-clockwise as seen from beyond them. */
function tetrahedron(
  points: readonly Vec3[],
): { corners: [number, number, number, number]; middle: Vec3; size: number } | null {
  if (points.length < 4) return null;
  const low: Vec3 = [Infinity, Infinity, Infinity];
  const high: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const p of points)
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k], p[k]);
      high[k] = Math.max(high[k], p[k]);
    }
  const span = sub(high, low);
  const size = Math.max(...span);
  const middle: Vec3 = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2];
  const most = (of: (p: Vec3) => number): number => {
    let best = 0;
    for (let i = 1; i < points.length; i++) if (of(points[i]) > of(points[best])) best = i;
    return best;
  };
  const square = (v: Vec3) => dot(v, v);
  const a = most((p) => square(sub(p, middle)));
  const b = most((p) => square(sub(p, points[a])));
  const along = sub(points[b], points[a]);
  const c = most((p) => square(cross(along, sub(p, points[a]))));
  const n = cross(along, sub(points[c], points[a]));
  const l = Math.sqrt(square(n));
  if (!(l > 1e-6 * size * size)) return null;
  const over = (p: Vec3) => dot(n, sub(p, points[a])) / l;
  const d = most((p) => Math.abs(over(p)));
  if (!(Math.abs(over(points[d])) > 1e-6 * size)) return null;
  return { corners: over(points[d]) < 0 ? [a, b, c, d] : [a, c, b, d], middle, size };
}
