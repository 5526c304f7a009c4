/** About so many places share a cell. */
const SHARE = 16;

/** Places in a grid of equal cells, made once: a dab of the brush among a hundred thousand looks at those about it. */
export class PlaceCells {
  private low = [Infinity, Infinity, Infinity];
  /** Side of a cell, and how many there are along each axis. */
  private side: number;
  private counts = [1, 1, 1];
  /** Where the list of each cell begins, and the lists one behind the other. */
  private start: Uint32Array;
  private list: Uint32Array;

  /** @param at x, y, z of each place; those with NaN are nowhere */
  constructor(private at: Float64Array) {
    const high = [-Infinity, -Infinity, -Infinity];
    let n = 0;
    for (let o = 0; o < at.length; o += 3) {
      if (at[o] !== at[o]) continue;
      n++;
      for (let a = 0; a < 3; a++) {
        if (at[o + a] < this.low[a]) this.low[a] = at[o + a];
        if (at[o + a] > high[a]) high[a] = at[o + a];
      }
    }
    const wide = high.map((h, a) => Math.max(0, h - this.low[a]));
    // They lie on a surface: the two widest ways tell how many there are in how much room.
    const [first, second] = [...wide].sort((a, b) => b - a);
    const area = Math.max(first * second, (first * first) / Math.max(1, n));
    this.side = n > 0 && area > 0 ? Math.sqrt((area * SHARE) / n) : 1;
    // A cube of them can have no more cells than places, or they would cost more than they spare.
    while (wide.reduce((c, w) => c * (Math.floor(w / this.side) + 1), 1) > 4 * n + 64) this.side *= 1.5;
    this.counts = wide.map((w) => (n > 0 ? Math.floor(w / this.side) + 1 : 1));
    this.start = new Uint32Array(this.counts[0] * this.counts[1] * this.counts[2] + 1);
    this.list = new Uint32Array(n);
    const cells = new Int32Array(at.length / 3).fill(-1);
    for (let i = 0; i < cells.length; i++) {
      const o = i * 3;
      if (at[o] !== at[o]) continue;
      cells[i] = this.cell(this.along(0, at[o]), this.along(1, at[o + 1]), this.along(2, at[o + 2]));
      this.start[cells[i] + 1]++;
    }
    for (let c = 1; c < this.start.length; c++) this.start[c] += this.start[c - 1];
    const next = this.start.slice();
    for (let i = 0; i < cells.length; i++) if (cells[i] >= 0) this.list[next[cells[i]]++] = i;
  }

  private cell = (x: number, y: number, z: number): number => (x * this.counts[1] + y) * this.counts[2] + z;

  /** Number of the cell along an axis, the outermost for what is beyond them. */
  private along(axis: number, v: number): number {
    const c = Math.floor((v - this.low[axis]) / this.side);
    return c < 0 ? 0 : c < this.counts[axis] ? c : this.counts[axis] - 1;
  }

  /** Calls `visit` with every place between two corners. */
  within(low: readonly number[], high: readonly number[], visit: (i: number) => void): void {
    const { at, start, list } = this;
    const from = low.map((v, a) => this.along(a, v));
    const to = high.map((v, a) => this.along(a, v));
    for (let x = from[0]; x <= to[0]; x++)
      for (let y = from[1]; y <= to[1]; y++) {
        // Along the last axis cells follow each other.
        const end = start[this.cell(x, y, to[2]) + 1];
        for (let k = start[this.cell(x, y, from[2])]; k < end; k++) {
          const o = list[k] * 3;
          const inside =
            at[o] >= low[0] &&
            at[o] <= high[0] &&
            at[o + 1] >= low[1] &&
            at[o + 1] <= high[1] &&
            at[o + 2] >= low[2] &&
            at[o + 2] <= high[2];
          if (inside) visit(list[k]);
        }
      }
  }
}
