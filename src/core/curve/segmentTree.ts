import type { CompiledPath } from './compile';

/**
 * Boxes around the segments of a path, and around runs of them by halves: neighbours along a path lie near each other,
 * so that the order they have is as good as a sorted one.
 */
export interface SegmentTree {
  /** Least x, y, z, then greatest, six numbers a node. */
  boxes: Float64Array;
  /** Segments of each node: from, and up to. */
  from: Int32Array;
  to: Int32Array;
  /** The second half of each node; the first follows it. 0 for a leaf. */
  second: Int32Array;
}

/** Segments of a leaf at the most. */
const LEAF = 4;

const kept = new WeakMap<CompiledPath, SegmentTree>();

/** The tree of a path, made once for it. */
export function segmentTree(path: CompiledPath): SegmentTree {
  let have = kept.get(path);
  if (!have) kept.set(path, (have = build(path)));
  return have;
}

function build({ controls, segmentCount }: CompiledPath): SegmentTree {
  const most = Math.max(1, 2 * segmentCount);
  const tree: SegmentTree = {
    boxes: new Float64Array(most * 6),
    from: new Int32Array(most),
    to: new Int32Array(most),
    second: new Int32Array(most),
  };
  let nodes = 0;
  const node = (from: number, to: number): number => {
    const at = nodes++;
    tree.from[at] = from;
    tree.to[at] = to;
    if (to - from > LEAF) {
      const middle = (from + to) >> 1;
      const first = node(from, middle);
      const second = (tree.second[at] = node(middle, to));
      for (let a = 0; a < 3; a++) {
        const [b, c, o] = [first * 6 + a, second * 6 + a, at * 6 + a];
        tree.boxes[o] = Math.min(tree.boxes[b], tree.boxes[c]);
        tree.boxes[o + 3] = Math.max(tree.boxes[b + 3], tree.boxes[c + 3]);
      }
      return at;
    }
    for (let a = 0; a < 3; a++) {
      let low = Infinity;
      let high = -Infinity;
      for (let o = from * 12 + a; o < to * 12; o += 3) {
        low = Math.min(low, controls[o]);
        high = Math.max(high, controls[o]);
      }
      tree.boxes[at * 6 + a] = low;
      tree.boxes[at * 6 + 3 + a] = high;
    }
    return at;
  };
  node(0, segmentCount);
  return tree;
}

/**
 * Visits the segments whose boxes may lie nearer to a point than the best that was found, nearer ones mostly first.
 * @param best squared distance, asked for again and again, since visits make it smaller
 */
export function eachNear(
  { boxes, from, to, second }: SegmentTree,
  point: readonly number[],
  best: () => number,
  visit: (segment: number) => void,
): void {
  const away = (node: number): number => {
    let d2 = 0;
    for (let a = 0; a < 3; a++) {
      const d = Math.max(boxes[node * 6 + a] - point[a], 0, point[a] - boxes[node * 6 + 3 + a]);
      d2 += d * d;
    }
    return d2;
  };
  const stack: { node: number; d2: number }[] = [{ node: 0, d2: away(0) }];
  while (stack.length > 0) {
    const { node, d2 } = stack.pop()!;
    if (d2 > best()) continue;
    if (second[node] === 0) {
      for (let k = from[node]; k < to[node]; k++) visit(k);
      continue;
    }
    const halves = [node + 1, second[node]].map((half) => ({ node: half, d2: away(half) }));
    // What is pushed last is looked at first.
    stack.push(...(halves[0].d2 <= halves[1].d2 ? halves.toReversed() : halves));
  }
}
