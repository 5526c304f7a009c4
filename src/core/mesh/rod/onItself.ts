import { nearestOf, type Near } from './touch';
import { pushBy } from './press';
import type { Rings } from './rings';

/** Keeps tubes off themselves and each other: stretch against stretch, as thick as both are. */
export class OnItself {
  /** Stretches: their first and second particle, where along their tube, and which tube. */
  private ends: Int32Array;
  private along: Float64Array;
  private tube: Int32Array;
  private round: Float64Array;
  /** Pairs that may meet until the coming frame. */
  private pairs: number[] = [];
  private near: Near = { s: 0, t: 0, x: 0, y: 0, z: 0, distance: 0 };

  /** @param middle xyz a ring at the start @param radius of each ring */
  constructor(
    { tubes }: Rings,
    middle: Float64Array,
    private radius: Float64Array,
  ) {
    const ends: number[] = [];
    const along: number[] = [];
    const tube: number[] = [];
    this.round = new Float64Array(tubes.length);
    tubes.forEach(({ from, to, closed }, t) => {
      let s = 0;
      for (let k = from; k < (closed ? to : to - 1); k++) {
        const next = k + 1 < to ? k + 1 : from;
        const [x, y, z] = [0, 1, 2].map((a) => middle[next * 3 + a] - middle[k * 3 + a]);
        const length = Math.sqrt(x * x + y * y + z * z);
        ends.push(k, next);
        along.push(s + length / 2);
        tube.push(t);
        s += length;
      }
      this.round[t] = closed ? s : Infinity;
    });
    this.ends = Int32Array.from(ends);
    this.along = Float64Array.from(along);
    this.tube = Int32Array.from(tube);
  }

  /** Finds which may meet until the coming frame. @param v metres a second @param time seconds to that */
  find(p: Float64Array, v: Float64Array, time: number): void {
    const { ends, radius } = this;
    const n = ends.length / 2;
    let reach = 0;
    for (let i = 0; i < n; i++) {
      const [a, b] = [ends[i * 2] * 3, ends[i * 2 + 1] * 3];
      const [x, y, z] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const speed = Math.sqrt(v[a] * v[a] + v[a + 1] * v[a + 1] + v[a + 2] * v[a + 2]);
      const thick = Math.max(radius[ends[i * 2]], radius[ends[i * 2 + 1]]);
      reach = Math.max(
        reach,
        Math.sqrt(x * x + y * y + z * z) / 2 + thick + Math.min(speed * time, 4 * thick),
      );
    }
    const cell = Math.max(1e-6, reach * 2);
    const cells = new Map<number, number[]>();
    const at = (i: number, k: number) =>
      Math.floor((p[ends[i * 2] * 3 + k] + p[ends[i * 2 + 1] * 3 + k]) / 2 / cell);
    const key = (x: number, y: number, z: number) =>
      ((x & 0x1ffff) * 0x20000 + (y & 0x1ffff)) * 0x20000 + (z & 0x1ffff);
    this.pairs.length = 0;
    for (let i = 0; i < n; i++) {
      const [x, y, z] = [at(i, 0), at(i, 1), at(i, 2)];
      for (let dx = -1; dx <= 1; dx++)
        for (let dy = -1; dy <= 1; dy++)
          for (let dz = -1; dz <= 1; dz++)
            for (const j of cells.get(key(x + dx, y + dy, z + dz)) ?? [])
              if (this.apart(i, j)) this.pairs.push(i, j);
      const own = cells.get(key(x, y, z));
      if (own) own.push(i);
      else cells.set(key(x, y, z), [i]);
    }
  }

  /** Whether they are no neighbours on one tube, which always are that near. */
  private apart(i: number, j: number): boolean {
    const { along, tube, round, ends, radius } = this;
    if (tube[i] !== tube[j]) return true;
    const way = Math.abs(along[i] - along[j]);
    return Math.min(way, round[tube[i]] - way) > 2 * (radius[ends[i * 2]] + radius[ends[j * 2]]);
  }

  /** The pair that is `k`-th, at its nearest; how far apart both are to be. */
  private meet(p: Float64Array, k: number): { a: number; b: number; c: number; d: number; wanted: number } {
    const { pairs, ends, radius, near } = this;
    const [i, j] = [pairs[k] * 2, pairs[k + 1] * 2];
    const [a, b, c, d] = [ends[i], ends[i + 1], ends[j], ends[j + 1]];
    nearestOf(p, a, b, c, d, near);
    const one = radius[a] + (radius[b] - radius[a]) * near.s;
    const other = radius[c] + (radius[d] - radius[c]) * near.t;
    return { a, b, c, d, wanted: one + other };
  }

  /**
   * Pushes all that are too near apart, and holds them back from sliding on each other.
   * @param before where they were a step ago @param inverse masses @param gives metres a newton that each is flattened
   * @param friction Coulomb's; Infinity: they stick
   */
  push(
    p: Float64Array,
    before: Float64Array,
    inverse: Float64Array,
    gives: Float64Array,
    friction: number,
    h: number,
  ): void {
    const { near } = this;
    const who = [0, 0, 0, 0];
    const share = [0, 0, 0, 0];
    for (let k = 0; k < this.pairs.length; k += 2) {
      const { a, b, c, d, wanted } = this.meet(p, k);
      const { s, t, x, y, z, distance } = near;
      const short = wanted - distance;
      if (short <= 0 || !(distance > 1e-9)) continue;
      [who[0], who[1], who[2], who[3]] = [a, b, c, d];
      [share[0], share[1], share[2], share[3]] = [1 - s, s, -(1 - t), -t];
      let w = 0;
      for (let e = 0; e < 4; e++) w += share[e] * share[e] * inverse[who[e]];
      if (!(w > 0)) continue;
      const soft = gives[a] * (1 - s) + gives[b] * s + gives[c] * (1 - t) + gives[d] * t;
      const [nx, ny, nz] = [x / distance, y / distance, z / distance];
      // What the first slides over the second in this step.
      let [rx, ry, rz] = [0, 0, 0];
      for (let e = 0; e < 4; e++) {
        const o = who[e] * 3;
        rx += share[e] * (p[o] - before[o]);
        ry += share[e] * (p[o + 1] - before[o + 1]);
        rz += share[e] * (p[o + 2] - before[o + 2]);
      }
      const up = rx * nx + ry * ny + rz * nz;
      const by = pushBy(short, wanted, w, soft, h, Math.max(0, -up));
      [rx, ry, rz] = [rx - nx * up, ry - ny * up, rz - nz * up];
      const slid = Math.sqrt(rx * rx + ry * ry + rz * rz);
      const back = slid > 0 ? Math.min(1, by > 0 ? (friction * by) / slid : 0) : 0;
      for (let e = 0; e < 4; e++) {
        const o = who[e] * 3;
        const f = (share[e] * inverse[who[e]]) / w;
        p[o] += (nx * by - rx * back) * f;
        p[o + 1] += (ny * by - ry * back) * f;
        p[o + 2] += (nz * by - rz * back) * f;
      }
    }
  }

  /** Tells how each ring is pressed by others, and by what share of its radius. */
  pressed(
    p: Float64Array,
    press: (ring: number, x: number, y: number, z: number, share: number) => void,
  ): void {
    const { near } = this;
    for (let k = 0; k < this.pairs.length; k += 2) {
      const { a, b, c, d, wanted } = this.meet(p, k);
      const { s, t, x, y, z, distance } = near;
      if (distance >= wanted || !(distance > 1e-9)) continue;
      const by = 1 - distance / wanted;
      const n = [x / distance, y / distance, z / distance];
      press(s < 0.5 ? a : b, n[0], n[1], n[2], by);
      press(t < 0.5 ? c : d, n[0], n[1], n[2], by);
    }
  }
}
