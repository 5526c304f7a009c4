import type { Boxes } from './boxes';

/** A tree over oriented boxes by the upright ones around them, halved at the middle of its longest side. */
export interface BoxTree {
  boxes: Boxes;
  /** Six numbers a box, least and greatest corner; and the same a node. */
  around: Float64Array;
  bounds: Float64Array;
  /** Leaf: its first entry in `order`. Else: its second child; the first is the next node. */
  start: Int32Array;
  /** Boxes of a leaf; 0 for the others. */
  count: Int32Array;
  order: Uint32Array;
  nodes: number;
}

const LEAF = 3;

/** A tree over all boxes; one without nodes where there is none. */
export function buildBoxTree(boxes: Boxes): BoxTree {
  const n = boxes.count;
  const most = Math.max(1, 2 * n);
  const tree: BoxTree = {
    boxes,
    around: around(boxes),
    bounds: new Float64Array(most * 6),
    start: new Int32Array(most),
    count: new Int32Array(most),
    order: Uint32Array.from({ length: n }, (_, i) => i),
    nodes: 0,
  };
  if (n > 0) divide(tree, 0, n);
  return tree;
}

function around({ count, centre, axes, half }: Boxes): Float64Array {
  const out = new Float64Array(count * 6);
  for (let i = 0; i < count; i++)
    for (let r = 0; r < 3; r++) {
      let h = 0;
      for (let a = 0; a < 3; a++) h += half[i * 3 + a] * Math.abs(axes[i * 9 + a * 3 + r]);
      out[i * 6 + r] = centre[i * 3 + r] - h;
      out[i * 6 + 3 + r] = centre[i * 3 + r] + h;
    }
  return out;
}

function divide(tree: BoxTree, first: number, end: number): number {
  const { order, bounds, around: b, boxes } = tree;
  const node = tree.nodes++;
  const o = node * 6;
  for (let r = 0; r < 3; r++) {
    let low = Infinity;
    let high = -Infinity;
    for (let i = first; i < end; i++) {
      low = Math.min(low, b[order[i] * 6 + r]);
      high = Math.max(high, b[order[i] * 6 + 3 + r]);
    }
    bounds[o + r] = low;
    bounds[o + 3 + r] = high;
  }
  if (end - first <= LEAF) {
    tree.start[node] = first;
    tree.count[node] = end - first;
    return node;
  }
  let axis = 0;
  for (let r = 1; r < 3; r++)
    if (bounds[o + 3 + r] - bounds[o + r] > bounds[o + 3 + axis] - bounds[o + axis]) axis = r;
  const middle = (first + end) >> 1;
  select(order, boxes.centre, axis, first, end - 1, middle);
  divide(tree, first, middle);
  tree.start[node] = divide(tree, middle, end);
  return node;
}

/** Orders so that the k-th entry is where it would be if all were sorted, smaller ones before it (Hoare: Find, 1961). */
function select(
  order: Uint32Array,
  at: Float64Array,
  axis: number,
  low: number,
  high: number,
  k: number,
): void {
  while (low < high) {
    const pivot = at[order[(low + high) >> 1] * 3 + axis];
    let i = low;
    let j = high;
    while (i <= j) {
      while (at[order[i] * 3 + axis] < pivot) i++;
      while (at[order[j] * 3 + axis] > pivot) j--;
      if (i > j) break;
      const t = order[i];
      order[i++] = order[j];
      order[j--] = t;
    }
    if (k <= j) high = j;
    else if (k >= i) low = i;
    else return;
  }
}

const apart = (a: Float64Array, i: number, b: Float64Array, j: number): boolean =>
  a[i] > b[j + 3] ||
  b[j] > a[i + 3] ||
  a[i + 1] > b[j + 4] ||
  b[j + 1] > a[i + 4] ||
  a[i + 2] > b[j + 5] ||
  b[j + 2] > a[i + 5];

/**
 * Goes through the pairs of boxes whose upright ones touch, one of either tree; of a tree with itself each pair once, the
 * lower number first. It can stop and go on: where all stands in one place every two of them are a pair.
 *
 * @example
 * const walk = new PairWalk(tree, tree);
 * while (!walk.on(met, () => tired)) await rest();
 */
export class PairWalk {
  /** Pairs of nodes of either tree, whose boxes touch, that are still to be opened. */
  private stack = new Int32Array(256);
  private top = 0;

  constructor(
    private a: BoxTree,
    private b: BoxTree,
  ) {
    if (a.nodes > 0 && b.nodes > 0) this.push(0, 0);
  }

  private push(m: number, n: number): void {
    if (apart(this.a.bounds, m * 6, this.b.bounds, n * 6)) return;
    if (this.top + 2 > this.stack.length) {
      const larger = new Int32Array(this.stack.length * 2);
      larger.set(this.stack);
      this.stack = larger;
    }
    this.stack[this.top++] = m;
    this.stack[this.top++] = n;
  }

  /** @param enough asked now and then whether to stop for now @returns whether it has come to its end */
  on(met: (i: number, j: number) => void, enough?: () => boolean): boolean {
    const { a, b } = this;
    const same = a === b;
    while (this.top > 0) {
      const n = this.stack[--this.top];
      const m = this.stack[--this.top];
      const isLeaf = a.count[m] > 0;
      if (isLeaf && b.count[n] > 0) {
        const end = a.start[m] + a.count[m];
        const last = b.start[n] + b.count[n];
        for (let i = a.start[m]; i < end; i++) {
          const p = a.order[i];
          for (let j = same && m === n ? i + 1 : b.start[n]; j < last; j++) {
            const q = b.order[j];
            if (apart(a.around, p * 6, b.around, q * 6)) continue;
            if (same && p > q) met(q, p);
            else met(p, q);
          }
        }
        if (enough?.()) return this.top === 0;
      } else if (same && m === n) {
        this.push(m + 1, m + 1);
        this.push(m + 1, a.start[m]);
        this.push(a.start[m], a.start[m]);
      } else if (b.count[n] > 0 || (!isLeaf && size(a.bounds, m * 6) > size(b.bounds, n * 6))) {
        this.push(m + 1, n);
        this.push(a.start[m], n);
      } else {
        this.push(m, n + 1);
        this.push(m, b.start[n]);
      }
    }
    return true;
  }
}

/** All pairs of {@link PairWalk} at once. */
export const eachPair = (a: BoxTree, b: BoxTree, met: (i: number, j: number) => void): void =>
  void new PairWalk(a, b).on(met);

const size = (b: Float64Array, o: number): number =>
  Math.max(b[o + 3] - b[o], b[o + 4] - b[o + 1], b[o + 5] - b[o + 2]);
