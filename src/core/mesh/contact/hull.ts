import { cross, dot, sub, type Vec3 } from '../../math/vec3';
import { convexHull } from './convexHull';

/**
 * The convex hull of a thing, and what of it the thing really has. Whatever lies under a thing meets its hull first:
 * where it is met by something that the thing has, too, the thing is met there, and its other triangles need no look.
 */
export interface Hull {
  /** xyz a point, in the thing's own space. */
  points: Float64Array;
  /** Three points a triangle, counter-clockwise from outside, and the flat side that it belongs to. */
  faces: Int32Array;
  sideOf: Int32Array;
  /** A side: its plane n·p = d by four numbers, n outwards and as long as it is wide; whether the thing covers it. */
  sides: Float64Array;
  isSideReal: Uint8Array;
  /** Two points an edge, and the sides to both hands of it. */
  edges: Int32Array;
  edgeSides: Int32Array;
  isEdgeReal: Uint8Array;
  /** Points may lie outside their side's plane by so much, metres. */
  slack: number;
  /** xyz a point: the highest place that a triangle of the thing reaches from there. */
  rises: Float64Array;
}

/** More points than this are not gone through one by one. */
const MOST = 512;
/** More triangles than this are not held against each other. */
const MOST_FACES = 20_000;
/** What the thing has within this share of its size of the hull is on it. */
const ON = 1e-7;

/** @param triangles nine numbers each @returns null for what is flat, round beyond use, or too fine */
export function hullOf(triangles: Float64Array): Hull | null {
  if (triangles.length === 0 || triangles.length > MOST_FACES * 9) return null;
  const { points, corners } = welded(triangles);
  const found = convexHull(points);
  if (!found) return null;
  const numbers = new Map<number, number>();
  const numberOf = (i: number) => {
    if (!numbers.has(i)) numbers.set(i, numbers.size);
    return numbers.get(i)!;
  };
  const faces = Int32Array.from(found.flat(), numberOf);
  if (numbers.size > MOST) return null;
  const used = [...numbers.keys()];
  const on = ON * sizeOf(used.map((i) => points[i]));
  const own = { points, corners, on };
  const { sideOf, firsts } = flatSides(own, found);
  return {
    points: Float64Array.from(used.flatMap((i) => points[i])),
    faces,
    sideOf,
    ...sidesOf(own, found, sideOf, firsts),
    ...edgesOf(own, found, sideOf, numberOf),
    slack: on,
    rises: Float64Array.from(risesOf(own, used).flat()),
  };
}

/** A thing: distinct points, three of them a triangle, and how near counts as on. */
interface Own {
  points: Vec3[];
  corners: Int32Array;
  on: number;
}

function welded(t: Float64Array): { points: Vec3[]; corners: Int32Array } {
  const points: Vec3[] = [];
  const byPlace = new Map<string, number>();
  const corners = new Int32Array(t.length / 3);
  for (let i = 0; i < corners.length; i++) {
    const p: Vec3 = [t[i * 3] + 0, t[i * 3 + 1] + 0, t[i * 3 + 2] + 0];
    const key = p.join();
    let n = byPlace.get(key);
    if (n === undefined) {
      byPlace.set(key, (n = points.length));
      points.push(p);
    }
    corners[i] = n;
  }
  return { points, corners };
}

function sizeOf(points: readonly Vec3[]): number {
  const spans = [0, 1, 2].map((k) => {
    const along = points.map((p) => p[k]);
    return along.reduce((a, b) => Math.max(a, b)) - along.reduce((a, b) => Math.min(a, b));
  });
  return Math.max(...spans);
}

const edgeKey = (p: number, q: number): string => (p < q ? `${p} ${q}` : `${q} ${p}`);
const areaOf = (a: Vec3, b: Vec3, c: Vec3): number => {
  const n = cross(sub(b, a), sub(c, a));
  return Math.sqrt(dot(n, n)) / 2;
};

/** Triangles of the hull that lie in one plane with their neighbours are one side, told by its largest. */
function flatSides(
  { points, on }: Own,
  faces: readonly [number, number, number][],
): { sideOf: Int32Array; firsts: number[] } {
  const sideOf = new Int32Array(faces.length).fill(-1);
  const across = new Map<string, number[]>();
  faces.forEach((f, i) => {
    for (let k = 0; k < 3; k++) {
      const key = edgeKey(f[k], f[(k + 1) % 3]);
      across.set(key, [...(across.get(key) ?? []), i]);
    }
  });
  const areas = faces.map(([a, b, c]) => areaOf(points[a], points[b], points[c]));
  const firsts: number[] = [];
  // The largest first: slivers say little of their plane.
  for (const first of faces.map((_, i) => i).sort((i, j) => areas[j] - areas[i] || i - j)) {
    if (sideOf[first] >= 0) continue;
    const [a, b, c] = faces[first];
    const n = cross(sub(points[b], points[a]), sub(points[c], points[a]));
    const l = Math.sqrt(dot(n, n));
    const isOn = (i: number) => Math.abs(dot(n, sub(points[i], points[a]))) <= on * l;
    const todo = [first];
    sideOf[first] = firsts.length;
    while (todo.length > 0) {
      const f = faces[todo.pop()!];
      for (let k = 0; k < 3; k++)
        for (const g of across.get(edgeKey(f[k], f[(k + 1) % 3]))!) {
          if (sideOf[g] >= 0 || !faces[g].every(isOn)) continue;
          sideOf[g] = firsts.length;
          todo.push(g);
        }
    }
    firsts.push(first);
  }
  return { sideOf, firsts };
}

/** The planes of the sides, and whether the thing's own triangles fill them. */
function sidesOf(
  { points, corners, on }: Own,
  faces: readonly [number, number, number][],
  sideOf: Int32Array,
  firsts: readonly number[],
): Pick<Hull, 'sides' | 'isSideReal'> {
  const sides = new Float64Array(firsts.length * 4);
  const wanted = new Float64Array(firsts.length);
  faces.forEach(([a, b, c], i) => (wanted[sideOf[i]] += areaOf(points[a], points[b], points[c])));
  const isSideReal = Uint8Array.from(firsts, (first, side) => {
    const [a, b, c] = faces[first].map((i) => points[i]);
    const n = cross(sub(b, a), sub(c, a));
    const l = Math.sqrt(dot(n, n));
    const level = dot(n, a);
    const isOn = (i: number) => Math.abs(dot(n, points[i]) - level) <= on * l;
    const wide = wanted[side] / l;
    sides.set([n[0] * wide, n[1] * wide, n[2] * wide, level * wide], side * 4);
    let has = 0;
    for (let t = 0; t < corners.length; t += 3)
      if (isOn(corners[t]) && isOn(corners[t + 1]) && isOn(corners[t + 2]))
        has += areaOf(points[corners[t]], points[corners[t + 1]], points[corners[t + 2]]);
    // More than all of it is some of it twice.
    return Math.abs(has - wanted[side]) <= 1e-6 * wanted[side] ? 1 : 0;
  });
  return { sides, isSideReal };
}

function edgesOf(
  own: Own,
  faces: readonly [number, number, number][],
  sideOf: Int32Array,
  numberOf: (i: number) => number,
): Pick<Hull, 'edges' | 'edgeSides' | 'isEdgeReal'> {
  const { points, corners } = own;
  const has = new Map<string, [number, number]>();
  for (let t = 0; t < corners.length; t++) {
    const [p, q] = [corners[t], corners[t - (t % 3) + ((t + 1) % 3)]];
    if (p !== q) has.set(edgeKey(p, q), [p, q]);
  }
  const all = [...has.values()];
  const firstOf = new Map<string, number>();
  const edges: number[] = [];
  const edgeSides: number[] = [];
  const isReal: number[] = [];
  faces.forEach((f, i) => {
    for (let k = 0; k < 3; k++) {
      const [p, q] = [f[k], f[(k + 1) % 3]];
      const key = edgeKey(p, q);
      const other = firstOf.get(key);
      if (other === undefined) firstOf.set(key, i);
      else if (sideOf[other] !== sideOf[i]) {
        edges.push(numberOf(p), numberOf(q));
        edgeSides.push(sideOf[other], sideOf[i]);
        isReal.push(has.has(key) || isChain(own, all, points[p], points[q]) ? 1 : 0);
      }
    }
  });
  return {
    edges: Int32Array.from(edges),
    edgeSides: Int32Array.from(edgeSides),
    isEdgeReal: Uint8Array.from(isReal),
  };
}

/** Whether edges of the thing that lie on the line from `a` to `b` make up all of it. */
function isChain({ points, on }: Own, all: readonly [number, number][], a: Vec3, b: Vec3): boolean {
  const along = sub(b, a);
  const square = dot(along, along);
  const l = Math.sqrt(square);
  const shareOf = (p: Vec3): number => {
    const to = sub(p, a);
    const n = cross(along, to);
    return dot(n, n) <= on * on * square ? dot(along, to) / square : NaN;
  };
  const parts: [number, number][] = [];
  for (const [p, q] of all) {
    const s = shareOf(points[p]);
    if (!(s > -1e-6 && s < 1 + 1e-6)) continue;
    const t = shareOf(points[q]);
    if (t > -1e-6 && t < 1 + 1e-6) parts.push(s < t ? [s, t] : [t, s]);
  }
  let to = 0;
  for (const [s, t] of parts.sort((x, y) => x[0] - y[0])) if (s <= to + on / l) to = Math.max(to, t);
  return to >= 1 - on / l;
}

function risesOf({ points, corners }: Own, used: readonly number[]): Vec3[] {
  const highest = new Map<number, number>();
  for (let t = 0; t < corners.length; t++)
    for (let k = t - (t % 3); k < t - (t % 3) + 3; k++) {
      const best = highest.get(corners[t]);
      if (best === undefined || points[corners[k]][1] > points[best][1]) highest.set(corners[t], corners[k]);
    }
  return used.map((i) => points[highest.get(i)!]);
}
