/** A link that is off by less than this share of its length is left to the next step. */
const NEAR = 1e-4;
const MOST_ROUNDS = 4;

/**
 * Brings the links of a chain back to their lengths, all at once: one step of Newton's method, whose matrix is
 * tridiagonal since every link meets but the two beside it.
 */
export class Chain {
  private n: Float64Array;
  private upper: Float64Array;
  private by: Float64Array;

  /** @param from first particle @param to one after the last @param length of each link, by its first particle */
  constructor(
    private from: number,
    private to: number,
    private length: Float64Array,
  ) {
    const links = Math.max(0, to - from - 1);
    this.n = new Float64Array(links * 3);
    this.upper = new Float64Array(links);
    this.by = new Float64Array(links);
  }

  /** @param p xyz a particle; changed @param inverse masses; 0 is held */
  tighten(p: Float64Array, inverse: Float64Array): void {
    // Nearly straight between two holds, one step goes far beyond or not nearly far enough.
    for (let round = 0; round < MOST_ROUNDS; round++) if (this.once(p, inverse) < NEAR) return;
  }

  /** One step. @returns by what share of its length the link was off before it that was off most */
  private once(p: Float64Array, inverse: Float64Array): number {
    let most = 0;
    const { from, to, n, upper, by, length } = this;
    const links = to - from - 1;
    let [lx, ly, lz] = [0, 0, 0];
    for (let i = 0; i < links; i++) {
      const o = (from + i) * 3;
      const [x, y, z] = [p[o + 3] - p[o], p[o + 4] - p[o + 1], p[o + 5] - p[o + 2]];
      const l = Math.sqrt(x * x + y * y + z * z);
      const k = l > 1e-12 ? 1 / l : 0;
      const [nx, ny, nz] = [x * k, y * k, z * k];
      const [w, next] = [inverse[from + i], inverse[from + i + 1]];
      // A hair softer than stiff, or a taut line between two holds would have no single answer.
      let diagonal = (w + next) * (1 + 1e-7) + 1e-300;
      let right = length[i] - l;
      most = Math.max(most, Math.abs(right) / (length[i] || 1));
      if (i > 0) {
        // What the link before it asks of the particle between them, taken out of this row.
        const shared = -w * (nx * lx + ny * ly + nz * lz);
        diagonal -= shared * upper[i - 1];
        right -= shared * by[i - 1];
      }
      n[i * 3] = lx = nx;
      n[i * 3 + 1] = ly = ny;
      n[i * 3 + 2] = lz = nz;
      by[i] = right / diagonal;
      if (i + 1 >= links) break;
      const [ax, ay, az] = [p[o + 6] - p[o + 3], p[o + 7] - p[o + 4], p[o + 8] - p[o + 5]];
      const al = Math.sqrt(ax * ax + ay * ay + az * az);
      upper[i] = al > 1e-12 ? (-next * (nx * ax + ny * ay + nz * az)) / al / diagonal : 0;
    }
    for (let i = links - 2; i >= 0; i--) by[i] -= upper[i] * by[i + 1];
    for (let i = 0; i < links; i++) {
      const o = (from + i) * 3;
      const [a, b] = [-by[i] * inverse[from + i], by[i] * inverse[from + i + 1]];
      for (let k = 0; k < 3; k++) {
        p[o + k] += n[i * 3 + k] * a;
        p[o + 3 + k] += n[i * 3 + k] * b;
      }
    }
    return most;
  }
}
