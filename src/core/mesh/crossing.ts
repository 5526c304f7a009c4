import { DEEPEST, type Bvh } from './bvh';

/** A mesh where it stands, as another one sees it. */
export interface Seen {
  tree: Bvh;
  /** Rows of the 3 × 3 matrix from its own space, and the place of its foot. */
  m: Float64Array;
  at: Float64Array;
}

const stack = new Int32Array(DEEPEST * 8 + 16);
const box = new Float64Array(12);
const one = new Float64Array(9);
const two = new Float64Array(9);

/**
 * Whether two meshes reach into each other: a side of one goes through a face of the other by more than `depth` on both
 * sides of it. What only touches, face on face or side by side, does not.
 * @param depth metres
 */
export function meshesCross(a: Seen, b: Seen, depth: number): boolean {
  if (a.tree.nodes === 0 || b.tree.nodes === 0) return false;
  let top = 0;
  stack[top++] = 0;
  stack[top++] = 0;
  while (top > 0) {
    const n = stack[--top];
    const k = stack[--top];
    boxOf(a, k, 0);
    boxOf(b, n, 6);
    if (box[0] > box[9] || box[6] > box[3] || box[1] > box[10] || box[7] > box[4]) continue;
    if (box[2] > box[11] || box[8] > box[5]) continue;
    const leaf = a.tree.count[k] > 0;
    const other = b.tree.count[n] > 0;
    if (leaf && other) {
      if (leavesCross(a, k, b, n, depth)) return true;
    } else if (other || (!leaf && widest(0) > widest(6))) {
      stack[top++] = k + 1;
      stack[top++] = n;
      stack[top++] = a.tree.start[k];
      stack[top++] = n;
    } else {
      stack[top++] = k;
      stack[top++] = n + 1;
      stack[top++] = k;
      stack[top++] = b.tree.start[n];
    }
  }
  return false;
}

const widest = (o: number): number =>
  Math.max(box[o + 3] - box[o], box[o + 4] - box[o + 1], box[o + 5] - box[o + 2]);

function boxOf({ tree, m, at }: Seen, node: number, w: number): void {
  const { bounds } = tree;
  const o = node * 6;
  for (let r = 0; r < 3; r++) {
    let middle = at[r];
    let half = 0;
    for (let c = 0; c < 3; c++) {
      middle += (m[r * 3 + c] * (bounds[o + c] + bounds[o + 3 + c])) / 2;
      half += (Math.abs(m[r * 3 + c]) * (bounds[o + 3 + c] - bounds[o + c])) / 2;
    }
    box[w + r] = middle - half;
    box[w + 3 + r] = middle + half;
  }
}

function corners({ tree, m, at }: Seen, face: number, out: Float64Array): void {
  const { positions: p, indices } = tree;
  for (let k = 0; k < 3; k++) {
    const o = indices[face * 3 + k] * 3;
    for (let r = 0; r < 3; r++)
      out[k * 3 + r] = at[r] + m[r * 3] * p[o] + m[r * 3 + 1] * p[o + 1] + m[r * 3 + 2] * p[o + 2];
  }
}

function leavesCross(a: Seen, k: number, b: Seen, n: number, depth: number): boolean {
  for (let i = a.tree.start[k]; i < a.tree.start[k] + a.tree.count[k]; i++) {
    corners(a, a.tree.order[i], one);
    for (let j = b.tree.start[n]; j < b.tree.start[n] + b.tree.count[n]; j++) {
      corners(b, b.tree.order[j], two);
      for (let s = 0; s < 3; s++) if (pierces(one, s, two, depth) || pierces(two, s, one, depth)) return true;
    }
  }
  return false;
}

/** Whether side `s` of triangle t goes through triangle q, well within it. */
function pierces(t: Float64Array, s: number, q: Float64Array, depth: number): boolean {
  const o = s * 3;
  const w = s === 2 ? 0 : o + 3;
  const ux = q[3] - q[0];
  const uy = q[4] - q[1];
  const uz = q[5] - q[2];
  const vx = q[6] - q[0];
  const vy = q[7] - q[1];
  const vz = q[8] - q[2];
  const nx = uy * vz - uz * vy;
  const ny = uz * vx - ux * vz;
  const nz = ux * vy - uy * vx;
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
  const from = (nx * (t[o] - q[0]) + ny * (t[o + 1] - q[1]) + nz * (t[o + 2] - q[2])) / l;
  const to = (nx * (t[w] - q[0]) + ny * (t[w + 1] - q[1]) + nz * (t[w + 2] - q[2])) / l;
  if (!((from > depth && to < -depth) || (from < -depth && to > depth))) return false;
  const k = from / (from - to);
  const x = t[o] + (t[w] - t[o]) * k - q[0];
  const y = t[o + 1] + (t[w + 1] - t[o + 1]) * k - q[1];
  const z = t[o + 2] + (t[w + 2] - t[o + 2]) * k - q[2];
  // The shares of the second and third corner, as areas.
  const square = nx * nx + ny * ny + nz * nz;
  const r = (nx * (y * vz - z * vy) + ny * (z * vx - x * vz) + nz * (x * vy - y * vx)) / square;
  const g = (nx * (uy * z - uz * y) + ny * (uz * x - ux * z) + nz * (ux * y - uy * x)) / square;
  // Within it by as much: what meets its rim only touches.
  const wide = depth / l;
  return (
    r > wide * Math.sqrt(vx * vx + vy * vy + vz * vz) &&
    g > wide * Math.sqrt(ux * ux + uy * uy + uz * uz) &&
    1 - r - g > wide * Math.sqrt((ux - vx) * (ux - vx) + (uy - vy) * (uy - vy) + (uz - vz) * (uz - vz))
  );
}

/** No side of a mesh is likely to run along this. */
const WAY = [0.4821, 0.7163, 0.5044];

/**
 * Whether a place is inside a closed mesh, by its own space: a ray to either side meets it an odd number of times. An
 * open one has an inside where both do.
 */
export const isInside = (tree: Bvh, x: number, y: number, z: number): boolean =>
  hits(tree, x, y, z, 1, false) % 2 === 1 && hits(tree, x, y, z, -1, false) % 2 === 1;

/**
 * How often a closed mesh goes round a place, by its own space: 0 outside, 1 inside, 2 where two of its parts lie over
 * each other there; negative where its faces look inward.
 */
export const windingAt = (tree: Bvh, x: number, y: number, z: number): number => hits(tree, x, y, z, 1, true);

/** @param signed faces that are met from behind count 1, and from the front -1 */
function hits(
  { nodes, bounds, start, count, order, positions: p, indices }: Bvh,
  x: number,
  y: number,
  z: number,
  way: number,
  signed: boolean,
): number {
  if (nodes === 0) return 0;
  const [dx, dy, dz] = WAY.map((v) => v * way);
  let met = 0;
  let top = 0;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    const o = node * 6;
    let [near, far] = [0, Infinity];
    for (let a = 0; a < 3; a++) {
      const d = a === 0 ? dx : a === 1 ? dy : dz;
      const at = a === 0 ? x : a === 1 ? y : z;
      const [p0, p1] = [(bounds[o + a] - at) / d, (bounds[o + 3 + a] - at) / d];
      near = Math.max(near, Math.min(p0, p1));
      far = Math.min(far, Math.max(p0, p1));
    }
    if (near > far) continue;
    if (count[node] === 0) {
      stack[top++] = node + 1;
      stack[top++] = start[node];
      continue;
    }
    for (let i = start[node]; i < start[node] + count[node]; i++) {
      const f = order[i] * 3;
      const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
      const [ex, ey, ez] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const [fx, fy, fz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
      const [qx, qy, qz] = [dy * fz - dz * fy, dz * fx - dx * fz, dx * fy - dy * fx];
      const det = ex * qx + ey * qy + ez * qz;
      const [sx, sy, sz] = [x - p[a], y - p[a + 1], z - p[a + 2]];
      const u = (sx * qx + sy * qy + sz * qz) / det;
      const [rx, ry, rz] = [sy * ez - sz * ey, sz * ex - sx * ez, sx * ey - sy * ex];
      const v = (dx * rx + dy * ry + dz * rz) / det;
      if (u >= 0 && v >= 0 && u + v <= 1 && (fx * rx + fy * ry + fz * rz) / det > 0)
        met += signed && det > 0 ? -1 : 1;
    }
  }
  return met;
}
