import { faceCross } from './face';

/**
 * A tree of boxes over the triangles of a mesh, for rays and nearest places. Built top down: each box is cut where
 * the surface-area heuristic over 16 bins of the longest side is least (Wald: On fast Construction of SAH-based
 * Bounding Volume Hierarchies, 2007). Children lie behind their parent, so refitting is one walk from the back.
 */
export interface Bvh {
  /** xyz a vertex; the tree reads them, and {@link refit} follows when they change. */
  positions: Float64Array;
  /** Three a triangle. */
  indices: Uint32Array;
  /** Six numbers a node: least and greatest corner. */
  bounds: Float64Array;
  /** Leaf: its first entry in `order`. Else: its second child; the first is the next node. */
  start: Int32Array;
  /** Triangles of a leaf; 0 for the others. */
  count: Int32Array;
  /** Triangle numbers, leaf after leaf. */
  order: Uint32Array;
  nodes: number;
  /** Triangles left out: without area, or with a number that is not finite. */
  dropped: number;
}

/** A place on a triangle: its number, the weights of its second and third corner, and how far away it is. */
export interface MeshHit {
  face: number;
  u: number;
  v: number;
  /** Along the ray in lengths of its direction; for the nearest place, metres. */
  t: number;
}

export const noHit = (): MeshHit => ({ face: -1, u: 0, v: 0, t: Infinity });

const BINS = 16;
const LEAF = 4;
/** Deeper than any tree over 2^31 triangles that halves at all; the builder ends there. */
const DEEPEST = 60;

/**
 * @param progress told the share done, 0–1, now and then
 * @returns a tree over all sound triangles; one without nodes where there is none
 */
export function buildBvh(
  positions: Float64Array,
  indices: Uint32Array,
  progress?: (done: number) => void,
): Bvh {
  const all = indices.length / 3;
  const centres = new Float32Array(all * 3);
  const order = new Uint32Array(all);
  let n = 0;
  for (let f = 0; f < all; f++) {
    if (!isSound(positions, indices, f)) continue;
    for (let a = 0; a < 3; a++)
      centres[f * 3 + a] =
        (positions[indices[f * 3] * 3 + a] +
          positions[indices[f * 3 + 1] * 3 + a] +
          positions[indices[f * 3 + 2] * 3 + a]) /
        3;
    order[n++] = f;
  }
  const most = Math.max(1, 2 * n);
  const tree: Bvh = {
    positions,
    indices,
    bounds: new Float64Array(most * 6),
    start: new Int32Array(most),
    count: new Int32Array(most),
    order: order.subarray(0, n),
    nodes: 0,
    dropped: all - n,
  };
  if (n > 0) divide(tree, centres, progress);
  return tree;
}

const across = new Float64Array(3);

function isSound(p: Float64Array, indices: Uint32Array, f: number): boolean {
  faceCross(p, indices, f, across);
  const area = across[0] * across[0] + across[1] * across[1] + across[2] * across[2];
  return area > 0 && area < Infinity;
}

function divide(tree: Bvh, centres: Float32Array, progress?: (done: number) => void): void {
  const { order } = tree;
  const bins = new Float64Array(BINS * 6);
  const binCount = new Int32Array(BINS);
  const areas = new Float64Array(BINS);
  let finished = 0;
  let told = 0;
  const box = new Float64Array(6);
  /** Cuts order[first, end) in two; returns where, or -1 for a leaf. */
  const cut = (first: number, end: number, depth: number): number => {
    const count = end - first;
    if (count <= LEAF || depth >= DEEPEST) return -1;
    let axis = 0;
    let low = 0;
    let high = 0;
    for (let a = 0; a < 3; a++) {
      let min = Infinity;
      let max = -Infinity;
      for (let i = first; i < end; i++) {
        const c = centres[order[i] * 3 + a];
        if (c < min) min = c;
        if (c > max) max = c;
      }
      if (a === 0 || max - min > high - low) [axis, low, high] = [a, min, max];
    }
    if (!(high > low)) return count > LEAF * 8 ? first + (count >> 1) : -1;
    const scale = BINS / (high - low);
    const binOf = (f: number) => Math.min(BINS - 1, Math.floor((centres[f * 3 + axis] - low) * scale));
    binCount.fill(0);
    for (let b = 0; b < BINS; b++) empty(bins, b * 6);
    for (let i = first; i < end; i++) {
      const b = binOf(order[i]);
      binCount[b]++;
      grow(tree, order[i], bins, b * 6);
    }
    // Costs from the right, then from the left against them.
    empty(box, 0);
    let right = 0;
    for (let b = BINS - 1; b > 0; b--) {
      right += binCount[b];
      merge(box, 0, bins, b * 6);
      areas[b] = right > 0 ? halfArea(box, 0) * right : 0;
    }
    empty(box, 0);
    let left = 0;
    let best = Infinity;
    let at = 1;
    for (let b = 1; b < BINS; b++) {
      left += binCount[b - 1];
      merge(box, 0, bins, (b - 1) * 6);
      if (left === 0 || left === count) continue;
      const cost = halfArea(box, 0) * left + areas[b];
      if (cost < best) [best, at] = [cost, b];
    }
    let i = first;
    let j = end - 1;
    while (i <= j) {
      if (binOf(order[i]) < at) i++;
      else {
        const f = order[i];
        order[i] = order[j];
        order[j--] = f;
      }
    }
    return i > first && i < end ? i : first + (count >> 1);
  };
  const build = (first: number, end: number, depth: number): number => {
    const node = tree.nodes++;
    const o = node * 6;
    const at = cut(first, end, depth);
    if (at < 0) {
      empty(tree.bounds, o);
      for (let i = first; i < end; i++) grow(tree, order[i], tree.bounds, o);
      tree.start[node] = first;
      tree.count[node] = end - first;
      finished += end - first;
      if (progress && finished - told > 50000) progress((told = finished) / order.length);
      return node;
    }
    const a = build(first, at, depth + 1);
    const b = build(at, end, depth + 1);
    tree.start[node] = b;
    empty(tree.bounds, o);
    merge(tree.bounds, o, tree.bounds, a * 6);
    merge(tree.bounds, o, tree.bounds, b * 6);
    return node;
  };
  build(0, order.length, 0);
}

function empty(b: Float64Array, o: number): void {
  b[o] = b[o + 1] = b[o + 2] = Infinity;
  b[o + 3] = b[o + 4] = b[o + 5] = -Infinity;
}

function grow({ positions: p, indices }: Bvh, f: number, b: Float64Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    const at = indices[f * 3 + k] * 3;
    for (let a = 0; a < 3; a++) {
      const v = p[at + a];
      if (v < b[o + a]) b[o + a] = v;
      if (v > b[o + 3 + a]) b[o + 3 + a] = v;
    }
  }
}

function merge(to: Float64Array, o: number, from: Float64Array, i: number): void {
  for (let a = 0; a < 3; a++) {
    if (from[i + a] < to[o + a]) to[o + a] = from[i + a];
    if (from[i + 3 + a] > to[o + 3 + a]) to[o + 3 + a] = from[i + 3 + a];
  }
}

function halfArea(b: Float64Array, o: number): number {
  const x = b[o + 3] - b[o];
  const y = b[o + 4] - b[o + 1];
  const z = b[o + 5] - b[o + 2];
  return x * y + y * z + z * x;
}

/** Follows the positions where they have moved, the triangles being the same. */
export function refit(tree: Bvh): void {
  const { bounds, count, start, order } = tree;
  for (let node = tree.nodes - 1; node >= 0; node--) {
    const o = node * 6;
    empty(bounds, o);
    if (count[node] > 0)
      for (let i = start[node]; i < start[node] + count[node]; i++) grow(tree, order[i], bounds, o);
    else {
      merge(bounds, o, bounds, (node + 1) * 6);
      merge(bounds, o, bounds, start[node] * 6);
    }
  }
}

const stack = new Int32Array(DEEPEST * 2 + 8);
const stackNear = new Float64Array(DEEPEST * 2 + 8);
/** Weights may fall short of a triangle by this much, so that no ray slips between two that share an edge. */
const EDGE = 1e-12;

/** Boxes are met a hair early and left a hair late, so that rounding never hides what lies on their sides. */
const SLACK = 1e-12;

/** Where a ray enters the box at `o`, between two lengths; Infinity where it passes by. ix… are 1 / direction. */
function enters(
  box: Float64Array,
  o: number,
  ox: number,
  oy: number,
  oz: number,
  ix: number,
  iy: number,
  iz: number,
  near: number,
  far: number,
): number {
  if (ix === Infinity || ix === -Infinity) {
    if (ox < box[o] || ox > box[o + 3]) return Infinity;
  } else {
    const a = (box[o] - ox) * ix;
    const b = (box[o + 3] - ox) * ix;
    const slack = SLACK * (Math.abs(a) + Math.abs(b));
    if (a < b) {
      if (a - slack > near) near = a - slack;
      if (b + slack < far) far = b + slack;
    } else {
      if (b - slack > near) near = b - slack;
      if (a + slack < far) far = a + slack;
    }
  }
  if (iy === Infinity || iy === -Infinity) {
    if (oy < box[o + 1] || oy > box[o + 4]) return Infinity;
  } else {
    const a = (box[o + 1] - oy) * iy;
    const b = (box[o + 4] - oy) * iy;
    const slack = SLACK * (Math.abs(a) + Math.abs(b));
    if (a < b) {
      if (a - slack > near) near = a - slack;
      if (b + slack < far) far = b + slack;
    } else {
      if (b - slack > near) near = b - slack;
      if (a + slack < far) far = a + slack;
    }
  }
  if (iz === Infinity || iz === -Infinity) {
    if (oz < box[o + 2] || oz > box[o + 5]) return Infinity;
  } else {
    const a = (box[o + 2] - oz) * iz;
    const b = (box[o + 5] - oz) * iz;
    const slack = SLACK * (Math.abs(a) + Math.abs(b));
    if (a < b) {
      if (a - slack > near) near = a - slack;
      if (b + slack < far) far = b + slack;
    } else {
      if (b - slack > near) near = b - slack;
      if (a + slack < far) far = a + slack;
    }
  }
  return near <= far ? near : Infinity;
}

/**
 * The first place where a ray meets a triangle from either side, at least `least` and at most `most` lengths of its
 * direction away (Möller and Trumbore 1997). Of equally near ones the lowest number wins, so the answer never depends
 * on how the tree was built.
 * @returns whether there is one; it is written to `hit`
 */
export function firstHit(
  tree: Bvh,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  least: number,
  most: number,
  hit: MeshHit,
): boolean {
  const { bounds, start, count, order, positions: p, indices } = tree;
  hit.face = -1;
  hit.t = most;
  if (tree.nodes === 0) return false;
  const ix = 1 / dx;
  const iy = 1 / dy;
  const iz = 1 / dz;
  let top = 0;
  stackNear[0] = enters(bounds, 0, ox, oy, oz, ix, iy, iz, least, most);
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    if (!(stackNear[top] <= hit.t)) continue;
    if (count[node] === 0) {
      const a = node + 1;
      const b = start[node];
      const near = enters(bounds, a * 6, ox, oy, oz, ix, iy, iz, least, hit.t);
      const far = enters(bounds, b * 6, ox, oy, oz, ix, iy, iz, least, hit.t);
      // The nearer one is looked at first.
      const inOrder = near <= far;
      const late = inOrder ? far : near;
      const early = inOrder ? near : far;
      if (late < Infinity) {
        stackNear[top] = late;
        stack[top++] = inOrder ? b : a;
      }
      if (early < Infinity) {
        stackNear[top] = early;
        stack[top++] = inOrder ? a : b;
      }
      continue;
    }
    for (let i = start[node]; i < start[node] + count[node]; i++) {
      const f = order[i];
      const a = indices[f * 3] * 3;
      const b = indices[f * 3 + 1] * 3;
      const c = indices[f * 3 + 2] * 3;
      const ex = p[b] - p[a];
      const ey = p[b + 1] - p[a + 1];
      const ez = p[b + 2] - p[a + 2];
      const fx = p[c] - p[a];
      const fy = p[c + 1] - p[a + 1];
      const fz = p[c + 2] - p[a + 2];
      const qx = dy * fz - dz * fy;
      const qy = dz * fx - dx * fz;
      const qz = dx * fy - dy * fx;
      const det = ex * qx + ey * qy + ez * qz;
      if (det === 0) continue;
      const inv = 1 / det;
      const sx = ox - p[a];
      const sy = oy - p[a + 1];
      const sz = oz - p[a + 2];
      const u = (sx * qx + sy * qy + sz * qz) * inv;
      if (!(u >= -EDGE && u <= 1 + EDGE)) continue;
      const rx = sy * ez - sz * ey;
      const ry = sz * ex - sx * ez;
      const rz = sx * ey - sy * ex;
      const v = (dx * rx + dy * ry + dz * rz) * inv;
      if (!(v >= -EDGE && u + v <= 1 + EDGE)) continue;
      const t = (fx * rx + fy * ry + fz * rz) * inv;
      if (!(t >= least) || t > hit.t || (t === hit.t && hit.face >= 0 && f > hit.face)) continue;
      hit.face = f;
      hit.u = u;
      hit.v = v;
      hit.t = t;
    }
  }
  return hit.face >= 0;
}

/**
 * The nearest place of all triangles, no further than `most` metres. Of equally near ones the lowest number wins.
 * @returns whether there is one; it is written to `hit`
 */
export function nearestPlace(
  tree: Bvh,
  x: number,
  y: number,
  z: number,
  most: number,
  hit: MeshHit,
): boolean {
  const { bounds, start, count, order } = tree;
  hit.face = -1;
  let best = most * most;
  if (tree.nodes === 0) return false;
  const away = (node: number): number => {
    const o = node * 6;
    const dx = Math.max(bounds[o] - x, 0, x - bounds[o + 3]);
    const dy = Math.max(bounds[o + 1] - y, 0, y - bounds[o + 4]);
    const dz = Math.max(bounds[o + 2] - z, 0, z - bounds[o + 5]);
    return dx * dx + dy * dy + dz * dz;
  };
  const place = { u: 0, v: 0, square: 0 };
  let top = 0;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    if (away(node) > best * (1 + 1e-12)) continue;
    if (count[node] === 0) {
      const a = node + 1;
      const b = start[node];
      const [near, far] = away(a) <= away(b) ? [a, b] : [b, a];
      stack[top++] = far;
      stack[top++] = near;
      continue;
    }
    for (let i = start[node]; i < start[node] + count[node]; i++) {
      nearestOnTriangle(tree, order[i], x, y, z, place);
      if (place.square > best || (place.square === best && hit.face >= 0 && order[i] > hit.face)) continue;
      best = place.square;
      hit.face = order[i];
      hit.u = place.u;
      hit.v = place.v;
    }
  }
  hit.t = Math.sqrt(best);
  return hit.face >= 0;
}

/** Weights of the nearest place of a triangle (Ericson: Real-Time Collision Detection, 5.1.5). */
function nearestOnTriangle(
  { positions: p, indices }: Bvh,
  f: number,
  x: number,
  y: number,
  z: number,
  out: { u: number; v: number; square: number },
): void {
  const a = indices[f * 3] * 3;
  const b = indices[f * 3 + 1] * 3;
  const c = indices[f * 3 + 2] * 3;
  const abx = p[b] - p[a];
  const aby = p[b + 1] - p[a + 1];
  const abz = p[b + 2] - p[a + 2];
  const acx = p[c] - p[a];
  const acy = p[c + 1] - p[a + 1];
  const acz = p[c + 2] - p[a + 2];
  const apx = x - p[a];
  const apy = y - p[a + 1];
  const apz = z - p[a + 2];
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  const ab = abx * abx + aby * aby + abz * abz;
  const mix = abx * acx + aby * acy + abz * acz;
  const ac = acx * acx + acy * acy + acz * acz;
  const d3 = d1 - ab;
  const d4 = d2 - mix;
  const d5 = d1 - mix;
  const d6 = d2 - ac;
  const vc = d1 * d4 - d3 * d2;
  const vb = d5 * d2 - d1 * d6;
  const va = d3 * d6 - d5 * d4;
  let u: number;
  let v: number;
  if (d1 <= 0 && d2 <= 0) [u, v] = [0, 0];
  else if (d3 >= 0 && d4 <= d3) [u, v] = [1, 0];
  else if (vc <= 0 && d1 >= 0 && d3 <= 0) [u, v] = [d1 / (d1 - d3), 0];
  else if (d6 >= 0 && d5 <= d6) [u, v] = [0, 1];
  else if (vb <= 0 && d2 >= 0 && d6 <= 0) [u, v] = [0, d2 / (d2 - d6)];
  else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    [u, v] = [1 - w, w];
  } else {
    const k = 1 / (va + vb + vc);
    [u, v] = [vb * k, vc * k];
  }
  const dx = apx - abx * u - acx * v;
  const dy = apy - aby * u - acy * v;
  const dz = apz - abz * u - acz * v;
  out.u = u;
  out.v = v;
  out.square = dx * dx + dy * dy + dz * dz;
}
