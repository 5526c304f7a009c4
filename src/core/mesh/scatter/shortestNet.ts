import { newBoxes } from '../boxes';
import { buildBoxTree, type BoxTree } from '../boxTree';

/**
 * The shortest net of lines that holds places together (Euclidean minimum spanning tree). In rounds each piece of it
 * takes its shortest way to another (Borůvka, “O jistém problému minimálním”, 1926); what is nearest is looked for in a
 * tree of boxes, which leaves out those that hold nothing but the same piece.
 */

/**
 * @param position x, y, z of each place @returns two places an edge, one less than there are places; of edges of the same
 * length the one of lower numbers, so that it is the same net on every run
 */
export function shortestNet(position: Float64Array): [number, number][] {
  const n = position.length / 3;
  const edges: [number, number][] = [];
  if (n < 2) return edges;
  const near = new NearestOther(position);
  const above = Int32Array.from({ length: n }, (_, i) => i);
  const pieceOf = (i: number): number => {
    while (above[i] !== i) i = above[i] = above[above[i]];
    return i;
  };
  const piece = new Int32Array(n);
  /** Squared metres that the nearest place of another piece is away at least: it only grows. */
  const away = new Float64Array(n);
  const best = new Float64Array(n);
  const from = new Int32Array(n);
  const to = new Int32Array(n);
  for (let joined = -1; edges.length < n - 1 && edges.length > joined;) {
    joined = edges.length;
    for (let i = 0; i < n; i++) piece[i] = pieceOf(i);
    near.see(piece);
    best.fill(Infinity);
    for (const i of near.tree.order) {
      const own = piece[i];
      if (away[i] > best[own]) continue;
      const j = near.of(i, best[own]);
      const d = near.least;
      away[i] = Math.max(away[i], d);
      if (j < 0 || (d === best[own] && !isBefore(i, j, from[own], to[own]))) continue;
      [best[own], from[own], to[own]] = [d, i, j];
    }
    for (let own = 0; own < n; own++) {
      if (best[own] === Infinity) continue;
      const [a, b] = [pieceOf(from[own]), pieceOf(to[own])];
      if (a === b) continue;
      above[a] = b;
      edges.push([from[own], to[own]]);
    }
  }
  return edges;
}

/** Which of two edges of the same length comes first. */
function isBefore(a: number, b: number, c: number, d: number): boolean {
  const [low, other] = [Math.min(a, b), Math.min(c, d)];
  return low === other ? Math.max(a, b) < Math.max(c, d) : low < other;
}

/** The nearest place of another piece, looked for in a tree of places. */
class NearestOther {
  readonly tree: BoxTree;
  /** By node: the piece that all its places are of; −1 where they are of several. */
  private held: Int32Array;
  private piece: Int32Array = new Int32Array(0);
  /** What was found last, −1 for nothing, and how far that is away, squared. */
  found = -1;
  least = Infinity;

  constructor(private position: Float64Array) {
    const places = newBoxes(position.length / 3);
    places.centre.set(position);
    this.tree = buildBoxTree(places);
    this.held = new Int32Array(this.tree.nodes);
  }

  /** Takes in which piece each place is of. */
  see(piece: Int32Array): void {
    this.piece = piece;
    const { nodes, start, count, order } = this.tree;
    // What hangs below a node comes after it.
    for (let node = nodes - 1; node >= 0; node--) {
      const first = start[node];
      let held = count[node] > 0 ? piece[order[first]] : this.held[node + 1];
      for (let k = first + 1; k < first + count[node]; k++) if (piece[order[k]] !== held) held = -1;
      if (count[node] === 0 && this.held[first] !== held) held = -1;
      this.held[node] = held;
    }
  }

  /** Looks for the one nearest to the place `i`, no further than `most` squared metres. @returns −1 where there is none */
  of(i: number, most: number): number {
    this.found = -1;
    this.least = most;
    this.visit(i, 0);
    return this.found;
  }

  private visit(i: number, node: number): void {
    if (this.held[node] === this.piece[i] || this.apart(i, node) > this.least) return;
    const { position, piece } = this;
    const { start, count, order } = this.tree;
    if (count[node] === 0) {
      const [left, right] = [node + 1, start[node]];
      const isLeftNearer = this.apart(i, left) <= this.apart(i, right);
      this.visit(i, isLeftNearer ? left : right);
      this.visit(i, isLeftNearer ? right : left);
      return;
    }
    for (let k = start[node]; k < start[node] + count[node]; k++) {
      const j = order[k];
      if (piece[j] === piece[i]) continue;
      let d = 0;
      for (let a = 0; a < 3; a++) {
        const way = position[j * 3 + a] - position[i * 3 + a];
        d += way * way;
      }
      const { found, least } = this;
      if (d > least || (d === least && found >= 0 && !isBefore(i, j, i, found))) continue;
      this.found = j;
      this.least = d;
    }
  }

  /** Squared metres from a place to the box of a node. */
  private apart(i: number, node: number): number {
    const { bounds } = this.tree;
    let d = 0;
    for (let a = 0; a < 3; a++) {
      const v = this.position[i * 3 + a];
      const out = Math.max(0, bounds[node * 6 + a] - v, v - bounds[node * 6 + 3 + a]);
      d += out * out;
    }
    return d;
  }
}
