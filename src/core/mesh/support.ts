import type { Vec3 } from '../math/vec3';

/** What of a prop may touch, in its own space: metres from the foot, X left, Y up, Z front. */
export interface PropShape {
  /** Its vertices, each place once. */
  points: Float64Array;
  /** Corners of its base, going round: what it rests on. Fewer than three: it balances on a point or an edge. */
  base: Vec3[];
  /** Vertices furthest out in many directions, those of the base among them. */
  outermost: Vec3[];
  /** Its faces, nine numbers each; made when they are first asked for. */
  triangles(): Float64Array;
}

/** Vertices this near above the lowest (share of the height) belong to the base. */
const BASE = 0.02;
/** Directions in which the outermost vertices are looked for: a ring of 8 at 5 tilts, and straight down and up. */
const RING = 8;

/** @param m from the mesh to the prop's own space, column-major @param indices three a triangle */
export function propShape(
  positions: ArrayLike<number>,
  m: ArrayLike<number>,
  indices: ArrayLike<number> = [],
): PropShape {
  let faces: Float64Array | null = null;
  const triangles = () => (faces ??= trianglesOf(positions, m, indices));
  const seen = new Set<string>();
  const list: number[] = [];
  for (let o = 0; o < positions.length; o += 3) {
    const key = `${positions[o]} ${positions[o + 1]} ${positions[o + 2]}`;
    if (seen.has(key)) continue;
    seen.add(key);
    for (let r = 0; r < 3; r++)
      list.push(m[r] * positions[o] + m[4 + r] * positions[o + 1] + m[8 + r] * positions[o + 2] + m[12 + r]);
  }
  const points = Float64Array.from(list.every(Number.isFinite) ? list : []);
  const base = baseOf(points);
  const outermost = new Map<number, Vec3>();
  for (let tilt = -2; tilt <= 2; tilt++)
    for (let k = 0; k < RING; k++) {
      const [x, z] = CIRCLE[k];
      const i = furthest(points, x, tilt * 0.8, z);
      if (i >= 0) outermost.set(i, at(points, i));
    }
  for (const way of [1, -1]) {
    const i = furthest(points, 0, way, 0);
    if (i >= 0) outermost.set(i, at(points, i));
  }
  return { points, base, outermost: [...outermost.values(), ...base], triangles };
}

function trianglesOf(p: ArrayLike<number>, m: ArrayLike<number>, indices: ArrayLike<number>): Float64Array {
  const out = new Float64Array(indices.length * 3);
  for (let i = 0; i < indices.length; i++) {
    const o = indices[i] * 3;
    for (let r = 0; r < 3; r++)
      out[i * 3 + r] = m[r] * p[o] + m[4 + r] * p[o + 1] + m[8 + r] * p[o + 2] + m[12 + r];
  }
  return out.every(Number.isFinite) ? out : new Float64Array(0);
}

const HALF = Math.SQRT1_2;
const CIRCLE = [
  [1, 0],
  [HALF, HALF],
  [0, 1],
  [-HALF, HALF],
  [-1, 0],
  [-HALF, -HALF],
  [0, -1],
  [HALF, -HALF],
];

const at = (p: Float64Array, i: number): Vec3 => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]];

/** Index of the point furthest in a direction; −1 for none. */
export function furthest(p: Float64Array, x: number, y: number, z: number): number {
  let best = -1;
  let most = -Infinity;
  for (let i = 0; i * 3 < p.length; i++) {
    const d = p[i * 3] * x + p[i * 3 + 1] * y + p[i * 3 + 2] * z;
    if (d > most) [best, most] = [i, d];
  }
  return best;
}

/** Up to eight corners of the outline of the lowest points as seen from above. */
function baseOf(points: Float64Array): Vec3[] {
  let low = Infinity;
  let high = -Infinity;
  for (let o = 1; o < points.length; o += 3) {
    low = Math.min(low, points[o]);
    high = Math.max(high, points[o]);
  }
  const under: number[] = [];
  for (let o = 0; o < points.length; o += 3)
    if (points[o + 1] <= low + BASE * (high - low) + 1e-4)
      under.push(points[o], points[o + 1], points[o + 2]);
  const lowest = Float64Array.from(under);
  const corners = new Map<number, Vec3>();
  // Between the eight directions, so that the corners of a square base are met and not its sides.
  for (let k = 0; k < RING; k++) {
    const [x, z] = CIRCLE[k];
    const [u, w] = CIRCLE[(k + 1) % RING];
    const i = furthest(lowest, x + u, 0, z + w);
    if (i >= 0) corners.set(i, at(lowest, i));
  }
  return [...corners.values()];
}
