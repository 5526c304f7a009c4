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

const BINS = 16;
const LEAF = 4;
/** Deeper than any tree over 2^31 triangles that halves at all; the builder ends there. */
export const DEEPEST = 60;

/**
 * @param progress told the share done, 0–1, now and then
 * @param lines keeps triangles whose second and third corner are one, for nearest places: pieces of lines
 * @returns a tree over all sound triangles; one without nodes where there is none
 */
export function buildBvh(
  positions: Float64Array,
  indices: Uint32Array,
  progress?: (done: number) => void,
  lines = false,
): Bvh {
  const all = indices.length / 3;
  const centres = new Float32Array(all * 3);
  const order = new Uint32Array(all);
  let n = 0;
  for (let f = 0; f < all; f++) {
    if (!isSound(positions, indices, f) && !(lines && isPiece(positions, indices, f))) continue;
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

/** Whether a triangle stands for the straight piece from its first corner to the other two. */
function isPiece(p: Float64Array, indices: Uint32Array, f: number): boolean {
  const [a, b, c] = indices.subarray(f * 3, f * 3 + 3);
  return b === c && [0, 1, 2].every((k) => Number.isFinite(p[a * 3 + k]) && Number.isFinite(p[b * 3 + k]));
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
