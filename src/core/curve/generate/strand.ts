import type { Generator, PathPoint } from '../schema';
import { length, type Vec3 } from '../../math/vec3';
import type { Generated } from './flat';
import { corner, through } from './points';
import { asinh, cosh, hypot, sinh } from '../../math/portable';

type Strand = Extract<Generator, { shape: 'strand' }>;

/** A catenary y = a·cosh((x − x0) / a) + y0 through (0, 0) and (h, v); null where it is straight. */
export interface Catenary {
  a: number;
  x0: number;
  y0: number;
}

/** x with sinh(x) / x = k, for k > 1: a bracket, then Newton held to it. */
function solveSinc(k: number): number {
  const f = (x: number) => (x < 1e-4 ? 1 + (x * x) / 6 : sinh(x) / x) - k;
  let low = 0;
  let high = 1;
  while (f(high) < 0 && high < 700) high *= 2;
  let x = Math.min(high, Math.sqrt(6 * (k - 1)));
  for (let i = 0; i < 200 && high - low > 1e-16 * high; i++) {
    const e = f(x);
    if (e > 0) high = x;
    else low = x;
    const slope = x < 1e-4 ? x / 3 : (cosh(x) - sinh(x) / x) / x;
    const next = x - e / slope;
    const to = next > low && next < high ? next : (low + high) / 2;
    // From here on it would only come back to itself.
    if (to === x) break;
    x = to;
  }
  return x;
}

const fromParameter = (x: number, h: number, v: number): Catenary => {
  const a = h / (2 * x);
  // The lowest place lies where the slopes to both ends fit the height between them.
  const x0 = h / 2 - a * asinh(v / (2 * a * sinh(x)));
  return { a, x0, y0: -a * cosh(x0 / a) };
};

/** The catenary of a given length; null where the length leaves no slack. @param h > 0 */
export function catenaryOfLength(h: number, v: number, wanted: number): Catenary | null {
  const k = Math.sqrt(Math.max(0, (wanted - v) * (wanted + v))) / h;
  return k > 1 + 1e-14 ? fromParameter(solveSinc(k), h, v) : null;
}

/** How far the catenary hangs below the line between its ends, at the most. */
export function sagOf(c: Catenary, h: number, v: number): number {
  // There it is parallel to that line.
  const x = c.x0 + c.a * asinh(v / h);
  return (v / h) * x - (c.a * cosh((x - c.x0) / c.a) + c.y0);
}

/** The catenary that hangs `sag` below the line between its ends, by halving; null for no sag. */
export function catenaryOfSag(h: number, v: number, sag: number): Catenary | null {
  if (!(sag > 1e-12)) return null;
  let low = 1e-9;
  let high = 1;
  while (sagOf(fromParameter(high, h, v), h, v) < sag && high < 300) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-15 * high; i++) {
    const mid = (low + high) / 2;
    if (sagOf(fromParameter(mid, h, v), h, v) < sag) low = mid;
    else high = mid;
  }
  return fromParameter((low + high) / 2, h, v);
}

/** Arc length of a catenary from x = 0 to x. */
const lengthTo = (c: Catenary, x: number) => c.a * (sinh((x - c.x0) / c.a) + sinh(c.x0 / c.a));

/**
 * A line hung between the origin and `to`. Its cubics are even in the catenary's own parameter, so that they are short
 * where it turns, however steep it hangs; they are doubled until their length is the catenary's own to 1e-10.
 * @param least so many they are at the least
 */
export function strand(g: Strand, least = 16): Generated {
  const to: Vec3 = [...g.to];
  const straight = length(to);
  const h = hypot(to[0], to[2]);
  const v = to[1];
  const wanted = g.by === 'length' ? g.length : straight * (1 + g.slack);
  const plain: Generated = { points: [corner([0, 0, 0]), corner(to)], closed: false };
  if (h <= 1e-9 * straight) {
    // Straight up and down, or both ends in one place: it hangs in a fold below the lower end.
    const extra = g.by === 'sag' ? g.sag : (wanted - straight) / 2;
    if (!(extra > 0)) return plain;
    return { points: [corner([0, 0, 0]), corner([0, Math.min(0, v) - extra, 0]), corner(to)], closed: false };
  }
  const c = g.by === 'sag' ? catenaryOfSag(h, v, g.sag) : catenaryOfLength(h, v, wanted);
  if (!c) return plain;
  const total = lengthTo(c, h);
  const [first, last] = [-c.x0 / c.a, (h - c.x0) / c.a];
  const build = (pieces: number): Generated => {
    const step = (last - first) / pieces;
    const points = Array.from({ length: pieces + 1 }, (_, k) => {
      const u = first + step * k;
      const x = c.x0 + c.a * u;
      const at: Vec3 =
        k === 0 ? [0, 0, 0] : k === pieces ? to : [(to[0] * x) / h, c.a * cosh(u) + c.y0, (to[2] * x) / h];
      const run = c.a * step;
      return through(at, [(to[0] / h) * run, sinh(u) * run, (to[2] / h) * run]);
    });
    return { points, closed: false };
  };
  for (let pieces = least; ; pieces *= 2) {
    const made = build(pieces);
    if (pieces >= 4096 || Math.abs(lengthOf(made.points) - total) <= 1e-10 * total) return made;
  }
}

/** Nodes and weights of Gauss and Legendre for ten points, on 0 to 1. */
const GAUSS = [
  [0.1488743389816312, 0.2955242247147529],
  [0.4333953941292472, 0.2692667193099963],
  [0.6794095682990244, 0.219086362515982],
  [0.8650633666889845, 0.1494513491505806],
  [0.9739065285171717, 0.0666713443086881],
].flatMap(([x, w]) => [
  [(1 - x) / 2, w / 2],
  [(1 + x) / 2, w / 2],
]);

/** Length of cubics through free points, each so smooth that ten places tell it to the last digits. */
function lengthOf(points: readonly PathPoint[]): number {
  let sum = 0;
  for (let i = 0; i + 1 < points.length; i++) {
    const [p, q] = [points[i], points[i + 1]];
    for (const [t, weight] of GAUSS) {
      const s = 1 - t;
      let squares = 0;
      for (let a = 0; a < 3; a++) {
        const [p0, p3] = [p.position[a], q.position[a]];
        const [p1, p2] = [p0 + p.handleOut[a], p3 + q.handleIn[a]];
        const v = 3 * (s * s * (p1 - p0) + 2 * s * t * (p2 - p1) + t * t * (p3 - p2));
        squares += v * v;
      }
      sum += weight * Math.sqrt(squares);
    }
  }
  return sum;
}
