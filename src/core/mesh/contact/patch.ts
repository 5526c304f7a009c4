import type { Vec3 } from '../../math/vec3';
import { DEEPEST, type Bvh } from '../bvh';
import { turnBox } from './turnBox';

/** How an edge of the ground lies between its faces. */
export const EDGE = {
  /** At a border, over a fold, or beside a face that stands on edge. */
  outline: 0,
  /** Its faces fall away to both sides. */
  ridge: 1,
  /** Its faces rise, or go on straight. */
  valley: 2,
} as const;

/** More faces than this are not gone through one by one. */
const MOST = 160;
const stack = new Int32Array(DEEPEST * 2 + 8);
const box = new Float64Array(6);

/** The faces of the grounds about a place, in the frame of a fall; gathered once, asked for pose after pose. */
export class Patch {
  faces = 0;
  /** Three corners a face: x, y and height each. */
  readonly corners = new Float64Array(MOST * 9);
  /** The greatest height of all, and the greatest of the faces' least. */
  top = -Infinity;
  overhead = -Infinity;
  /** What of the plane across it is in it: least and greatest x and y. */
  readonly reach = new Float64Array(4);
  private ground = new Int32Array(MOST);
  private vertices = new Uint32Array(MOST * 3);
  /** a, b, c of h = a·x + b·y + c, of those that do not stand on edge. */
  readonly planes = new Float64Array(MOST * 3);
  readonly isFlat = new Uint8Array(MOST);
  /** Least and greatest x and y of a face. */
  readonly boxes = new Float64Array(MOST * 4);
  /** One more than the kind; 0 where none has asked for it yet. */
  private kinds = new Uint8Array(MOST * 3);

  /**
   * @param frame rows of the matrix from the scene, about the foot, to the frame
   * @param wide least and greatest x and y in the frame @returns false where there are too many faces
   */
  gather(grounds: readonly Bvh[], frame: Float64Array, foot: Vec3, wide: Float64Array): boolean {
    this.faces = 0;
    this.top = this.overhead = -Infinity;
    this.reach.set(wide);
    for (let g = 0; g < grounds.length; g++) if (!this.gatherOf(grounds[g], g, frame, foot)) return false;
    this.kinds.fill(0, 0, this.faces * 3);
    return true;
  }

  private gatherOf(ground: Bvh, g: number, frame: Float64Array, foot: Vec3): boolean {
    if (ground.nodes === 0) return true;
    const { bounds, start, count, order } = ground;
    const { reach } = this;
    let top = 0;
    stack[top++] = 0;
    while (top > 0) {
      const node = stack[--top];
      turnBox(frame, bounds, node * 6, foot, box, 0);
      if (box[0] > reach[1] || box[3] < reach[0] || box[1] > reach[3] || box[4] < reach[2]) continue;
      if (count[node] === 0) {
        stack[top++] = start[node];
        stack[top++] = node + 1;
        continue;
      }
      for (let i = start[node]; i < start[node] + count[node]; i++)
        if (!this.take(ground, g, order[i], frame, foot)) return false;
    }
    return true;
  }

  private take(
    { positions: p, indices }: Bvh,
    g: number,
    face: number,
    m: Float64Array,
    foot: Vec3,
  ): boolean {
    if (this.faces === MOST) return false;
    const f = this.faces;
    const c = this.corners;
    const at = f * 9;
    for (let k = 0; k < 3; k++) {
      const o = indices[face * 3 + k] * 3;
      const x = p[o] - foot[0];
      const y = p[o + 1] - foot[1];
      const z = p[o + 2] - foot[2];
      c[at + k * 3] = m[0] * x + m[1] * y + m[2] * z;
      c[at + k * 3 + 1] = m[3] * x + m[4] * y + m[5] * z;
      c[at + k * 3 + 2] = m[6] * x + m[7] * y + m[8] * z;
      this.vertices[f * 3 + k] = indices[face * 3 + k];
    }
    const { reach, boxes } = this;
    const x0 = Math.min(c[at], c[at + 3], c[at + 6]);
    const x1 = Math.max(c[at], c[at + 3], c[at + 6]);
    const y0 = Math.min(c[at + 1], c[at + 4], c[at + 7]);
    const y1 = Math.max(c[at + 1], c[at + 4], c[at + 7]);
    if (x0 > reach[1] || x1 < reach[0] || y0 > reach[3] || y1 < reach[2]) return true;
    boxes[f * 4] = x0;
    boxes[f * 4 + 1] = x1;
    boxes[f * 4 + 2] = y0;
    boxes[f * 4 + 3] = y1;
    this.isFlat[f] = planeOf(c, at, this.planes, f * 3) ? 1 : 0;
    this.top = Math.max(this.top, c[at + 2], c[at + 5], c[at + 8]);
    const low = Math.min(c[at + 2], c[at + 5], c[at + 8]);
    if (low > this.overhead) this.overhead = low;
    this.ground[f] = g;
    this.faces++;
    return true;
  }

  /** The kind of the edge of a face from a corner on. */
  edgeKind(f: number, k: number): number {
    const o = f * 3 + k;
    if (this.kinds[o] === 0) this.kinds[o] = this.kindOf(f, k) + 1;
    return this.kinds[o] - 1;
  }

  private kindOf(f: number, k: number): number {
    if (this.isFlat[f] === 0) return EDGE.outline;
    const { corners: c, planes, vertices } = this;
    const u = vertices[f * 3 + k];
    const v = vertices[f * 3 + ((k + 1) % 3)];
    let other = -1;
    let edge = -1;
    for (let g = 0; g < this.faces; g++) {
      const o = g * 3;
      const a = vertices[o] === u || vertices[o] === v ? 1 : 0;
      const b = vertices[o + 1] === u || vertices[o + 1] === v ? 2 : 0;
      const d = vertices[o + 2] === u || vertices[o + 2] === v ? 4 : 0;
      const has = a + b + d;
      if ((has !== 3 && has !== 5 && has !== 6) || g === f || this.ground[g] !== this.ground[f]) continue;
      // A third face makes an outline of it.
      if (other >= 0) return EDGE.outline;
      other = o * 3 + (has === 3 ? 6 : has === 5 ? 3 : 0);
      edge = o + (has === 3 ? 0 : has === 5 ? 2 : 1);
    }
    if (other < 0) return EDGE.outline;
    const a = f * 9 + k * 3;
    const b = f * 9 + ((k + 1) % 3) * 3;
    const own = f * 9 + ((k + 2) % 3) * 3;
    const ux = c[b] - c[a];
    const uy = c[b + 1] - c[a + 1];
    const mine = ux * (c[own + 1] - c[a + 1]) - uy * (c[own] - c[a]);
    const theirs = ux * (c[other + 1] - c[a + 1]) - uy * (c[other] - c[a]);
    // On edge it adds no area, and no more does a sliver.
    const isWide = Math.abs(theirs) > 1e-9 * (ux * ux + uy * uy);
    if (!isWide || mine * theirs >= 0) return EDGE.outline;
    const level = planes[f * 3] * c[other] + planes[f * 3 + 1] * c[other + 1] + planes[f * 3 + 2];
    const kind = c[other + 2] < level ? EDGE.ridge : EDGE.valley;
    // From the other face it looks just so.
    if (this.isFlat[Math.floor(edge / 3)]) this.kinds[edge] = kind + 1;
    return kind;
  }
}

/** Writes a, b, c of h = a·x + b·y + c through three corners. @returns false where they stand on edge */
function planeOf(t: Float64Array, o: number, out: Float64Array, w: number): boolean {
  const ux = t[o + 3] - t[o];
  const uy = t[o + 4] - t[o + 1];
  const uh = t[o + 5] - t[o + 2];
  const vx = t[o + 6] - t[o];
  const vy = t[o + 7] - t[o + 1];
  const vh = t[o + 8] - t[o + 2];
  const twice = ux * vy - uy * vx;
  if (!(Math.abs(twice) > 1e-9 * (ux * ux + uy * uy + vx * vx + vy * vy))) return false;
  out[w] = (uh * vy - uy * vh) / twice;
  out[w + 1] = (ux * vh - uh * vx) / twice;
  out[w + 2] = t[o + 2] - out[w] * t[o] - out[w + 1] * t[o + 1];
  return true;
}
