/** Sides that only touch do not carry each other: overlaps narrower than this, metres, are none. */
export const GRAZE = 1e-6;

/** What meets where two triangles are nearest: a corner and a face, or two sides (0–2, side k from corner k on). */
export type Meeting =
  | { kind: 'corner-face'; a: number }
  | { kind: 'face-corner'; b: number }
  | { kind: 'sides'; a: number; b: number };

/** What is left of a triangle clipped by another has no more corners than this. */
const MOST = 8;

/**
 * Triangles over each other, seen along a direction: nine numbers each, the x, y and height of their corners. Where
 * two overlap, the height of one over the other is least at a corner of the overlap (both being flat): a corner of
 * either, or a crossing of their sides. So one is clipped by the other (Sutherland and Hodgman 1974).
 *
 * @example
 * const overlap = new Overlap();
 * overlap.least(crate, 0, ground, 9); // metres that the crate's first triangle has over the ground's second
 * overlap.meeting(); // what of them would touch
 */
export class Overlap {
  private corners = new Float64Array(MOST * 3);
  private spare = new Float64Array(MOST * 3);
  /** Whose side begins at each corner: 0–2 of the clipped triangle, 3–5 of the other. */
  private sides = new Int8Array(MOST);
  private spareSides = new Int8Array(MOST);
  private count = 0;
  private lowest = -1;
  /** Whether b was clipped by a. */
  private swapped = false;
  /** The plane of the triangle that clipped, over x and y. */
  private plane = new Float64Array(3);

  /**
   * The least height of triangle a over triangle b; Infinity where they do not overlap. One that stands on edge is met
   * by its sides; of two on edge nothing is met but what their neighbours have in common with them.
   * @param i where in `a` the nine numbers begin @param j the same in `b`
   */
  least(a: Float64Array, i: number, b: Float64Array, j: number): number {
    this.count = 0;
    const areaB = twiceArea(b, j);
    this.swapped = !isFlat(b, j, areaB);
    if (!this.swapped) return this.clip(a, i, b, j, areaB, 1);
    const areaA = twiceArea(a, i);
    return isFlat(a, i, areaA) ? this.clip(b, j, a, i, areaA, -1) : Infinity;
  }

  /** The middle of the last overlap and the heights of both there. */
  middle(): { x: number; y: number; a: number; b: number } {
    const { corners: c, count, plane } = this;
    let [x, y, own] = [0, 0, 0];
    for (let n = 0; n < count * 3; n += 3) {
      x += c[n] / count;
      y += c[n + 1] / count;
      own += c[n + 2] / count;
    }
    const other = plane[0] * x + plane[1] * y + plane[2];
    return this.swapped ? { x, y, a: other, b: own } : { x, y, a: own, b: other };
  }

  /** What of the last two triangles meets where they are nearest. */
  meeting(): Meeting {
    const into = this.sides[(this.lowest + this.count - 1) % this.count];
    const from = this.sides[this.lowest];
    if (into < 3 && from < 3)
      return this.swapped ? { kind: 'face-corner', b: from } : { kind: 'corner-face', a: from };
    if (into >= 3 && from >= 3) {
      const k = (into - 2) % 3 === from - 3 ? from - 3 : into - 3;
      return this.swapped ? { kind: 'corner-face', a: k } : { kind: 'face-corner', b: k };
    }
    const [own, other] = into < 3 ? [into, from - 3] : [from, into - 3];
    return this.swapped ? { kind: 'sides', a: other, b: own } : { kind: 'sides', a: own, b: other };
  }

  /** Clips triangle p by the sides of triangle q and reads the heights at the corners of what is left. */
  private clip(p: Float64Array, i: number, q: Float64Array, j: number, twice: number, sign: 1 | -1): number {
    let from = this.corners;
    let fromSides = this.sides;
    let to = this.spare;
    let toSides = this.spareSides;
    for (let k = 0; k < 9; k++) from[k] = p[i + k];
    for (let k = 0; k < 3; k++) fromSides[k] = k;
    let count = 3;
    const way = twice > 0 ? 1 : -1;
    for (let k = 0; k < 3; k++) {
      const o = j + k * 3;
      const w = k === 2 ? j : o + 3;
      const qx = q[o];
      const qy = q[o + 1];
      const unit = way / Math.sqrt((q[w] - qx) * (q[w] - qx) + (q[w + 1] - qy) * (q[w + 1] - qy));
      const ex = (q[w] - qx) * unit;
      const ey = (q[w + 1] - qy) * unit;
      // Only real outlines are drawn in by the graze; a side is as good as its line.
      const edge = ex * qy - ey * qx + GRAZE / 4;
      let here = ex * from[1] - ey * from[0] - edge;
      const first = here;
      let left = 0;
      for (let n = 0; n < count; n++) {
        const at = n * 3;
        const on = n + 1 === count ? 0 : at + 3;
        const there = on === 0 ? first : ex * from[on + 1] - ey * from[on] - edge;
        if (here >= 0) {
          to[left * 3] = from[at];
          to[left * 3 + 1] = from[at + 1];
          to[left * 3 + 2] = from[at + 2];
          toSides[left++] = fromSides[n];
        }
        if (here >= 0 !== there >= 0) {
          const u = here / (here - there);
          to[left * 3] = from[at] + (from[on] - from[at]) * u;
          to[left * 3 + 1] = from[at + 1] + (from[on + 1] - from[at + 1]) * u;
          to[left * 3 + 2] = from[at + 2] + (from[on + 2] - from[at + 2]) * u;
          toSides[left++] = here >= 0 ? 3 + k : fromSides[n];
        }
        here = there;
      }
      if (left === 0) return Infinity;
      count = left;
      const corners = from;
      from = to;
      to = corners;
      const sides = fromSides;
      fromSides = toSides;
      toSides = sides;
    }
    this.corners = from;
    this.sides = fromSides;
    this.spare = to;
    this.spareSides = toSides;
    this.count = count;
    const ux = q[j + 3] - q[j];
    const uy = q[j + 4] - q[j + 1];
    const uh = q[j + 5] - q[j + 2];
    const vx = q[j + 6] - q[j];
    const vy = q[j + 7] - q[j + 1];
    const vh = q[j + 8] - q[j + 2];
    const byX = (uh * vy - uy * vh) / twice;
    const byY = (ux * vh - uh * vx) / twice;
    const c = from;
    let least = Infinity;
    for (let n = 0; n < count; n++) {
      const height = q[j + 2] + byX * (c[n * 3] - q[j]) + byY * (c[n * 3 + 1] - q[j + 1]);
      const over = sign * (c[n * 3 + 2] - height);
      if (over >= least) continue;
      least = over;
      this.lowest = n;
    }
    this.plane[0] = byX;
    this.plane[1] = byY;
    this.plane[2] = q[j + 2] - byX * q[j] - byY * q[j + 1];
    return least;
  }
}

const twiceArea = (t: Float64Array, o: number): number =>
  (t[o + 3] - t[o]) * (t[o + 7] - t[o + 1]) - (t[o + 6] - t[o]) * (t[o + 4] - t[o + 1]);

/** Whether a triangle does not stand on edge. */
function isFlat(t: Float64Array, o: number, twice: number): boolean {
  const x = Math.max(t[o], t[o + 3], t[o + 6]) - Math.min(t[o], t[o + 3], t[o + 6]);
  const y = Math.max(t[o + 1], t[o + 4], t[o + 7]) - Math.min(t[o + 1], t[o + 4], t[o + 7]);
  return Math.abs(twice) > 1e-9 * (x * x + y * y);
}
