/**
 * The shortest net of lines that holds places together (Euclidean minimum spanning tree). In rounds each piece of it
 * takes its shortest way to another (Borůvka, “O jistém problému minimálním”, 1926); what is nearest is looked for in a
 * tree of boxes, which leaves out those that hold nothing but the same piece.
 */

/** So many places are looked through one by one. */
const LEAF = 8;

/**
 * @param position x, y, z of each place @returns two places an edge, one less than there are places; of edges of the same
 * length the one of lower numbers, so that it is the same net on every run
 */
export function shortestNet(position: Float64Array): [number, number][] {
  const n = position.length / 3;
  const edges: [number, number][] = [];
  if (n < 2) return edges;
  const tree = new PlaceTree(position);
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
    tree.see(piece);
    best.fill(Infinity);
    for (const i of tree.order) {
      const own = piece[i];
      if (away[i] > best[own]) continue;
      const j = tree.nearestOther(i, best[own]);
      const d = tree.least;
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

/** Places in boxes, halved along the widest side of each. */
class PlaceTree {
  /** The places, those of a box one behind the other. */
  readonly order: Uint32Array;
  /** Least x, y, z and greatest x, y, z of each box: that of the box k is followed by 2k + 1 and 2k + 2. */
  private boxes: Float64Array;
  /** The piece that all places of a box are of; −1 where they are of several. */
  private held: Int32Array;
  private piece: Int32Array = new Int32Array(0);
  /** What {@link nearestOther} has found, and how far that is away, squared. */
  found = -1;
  least = Infinity;

  constructor(private position: Float64Array) {
    this.order = Uint32Array.from({ length: position.length / 3 }, (_, i) => i);
    let ends = 1;
    while (this.order.length > ends * LEAF) ends *= 2;
    this.boxes = new Float64Array(ends * 2 * 6);
    this.held = new Int32Array(ends * 2);
    this.part(0, 0, this.order.length);
  }

  private part(box: number, first: number, end: number): void {
    const { position, boxes, order } = this;
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let k = first; k < end; k++)
      for (let a = 0; a < 3; a++) {
        low[a] = Math.min(low[a], position[order[k] * 3 + a]);
        high[a] = Math.max(high[a], position[order[k] * 3 + a]);
      }
    for (let a = 0; a < 3; a++) [boxes[box * 6 + a], boxes[box * 6 + 3 + a]] = [low[a], high[a]];
    if (end - first <= LEAF) return;
    const wide = high.map((h, a) => h - low[a]);
    const axis = wide.indexOf(Math.max(...wide));
    order.subarray(first, end).sort((i, j) => position[i * 3 + axis] - position[j * 3 + axis] || i - j);
    const middle = (first + end) >> 1;
    this.part(box * 2 + 1, first, middle);
    this.part(box * 2 + 2, middle, end);
  }

  /** Takes in which piece each place is of. */
  see(piece: Int32Array): void {
    this.piece = piece;
    this.look(0, 0, this.order.length);
  }

  private look(box: number, first: number, end: number): number {
    let held: number;
    if (end - first <= LEAF) {
      held = this.piece[this.order[first]];
      for (let k = first + 1; k < end; k++) if (this.piece[this.order[k]] !== held) held = -1;
    } else {
      const middle = (first + end) >> 1;
      held = this.look(box * 2 + 1, first, middle);
      if (this.look(box * 2 + 2, middle, end) !== held) held = -1;
    }
    return (this.held[box] = held);
  }

  /** Looks for the nearest place of another piece, no further than `most` squared metres; −1 where there is none. */
  nearestOther(i: number, most: number): number {
    this.found = -1;
    this.least = most;
    this.visit(i, 0, 0, this.order.length);
    return this.found;
  }

  private visit(i: number, box: number, first: number, end: number): void {
    if (this.held[box] === this.piece[i] || this.apart(i, box) > this.least) return;
    const { position, order, piece } = this;
    if (end - first > LEAF) {
      const middle = (first + end) >> 1;
      const isLeftNearer = this.apart(i, box * 2 + 1) <= this.apart(i, box * 2 + 2);
      if (isLeftNearer) this.visit(i, box * 2 + 1, first, middle);
      this.visit(i, box * 2 + 2, middle, end);
      if (!isLeftNearer) this.visit(i, box * 2 + 1, first, middle);
      return;
    }
    for (let k = first; k < end; k++) {
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

  /** Squared metres from a place to a box. */
  private apart(i: number, box: number): number {
    let d = 0;
    for (let a = 0; a < 3; a++) {
      const v = this.position[i * 3 + a];
      const out = Math.max(0, this.boxes[box * 6 + a] - v, v - this.boxes[box * 6 + 3 + a]);
      d += out * out;
    }
    return d;
  }
}
