import type { Vec3 } from '../../math/vec3';
import { DEEPEST, type Bvh } from '../bvh';
import { planeOf } from './planeOf';
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
  /** Numbers of a face's corners and of its edges, each the same in all faces that have it. */
  readonly vertex = new Int32Array(MOST * 3);
  readonly edge = new Int32Array(MOST * 3);
  edges = 0;
  private numbers = new Numbers(MOST * 3);
  private pairs = new Numbers(MOST * 3);
  /** Where an edge begins (three a face) in the first face that has it and in the second, and in how many it is. */
  private first = new Int32Array(MOST * 3);
  private second = new Int32Array(MOST * 3);
  private sharing = new Uint8Array(MOST * 3);
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
    this.faces = this.edges = 0;
    this.numbers.clear();
    this.pairs.clear();
    this.top = this.overhead = -Infinity;
    this.reach.set(wide);
    for (let g = 0; g < grounds.length; g++) if (!this.gatherOf(grounds[g], g, frame, foot)) return false;
    this.kinds.fill(0, 0, this.edges);
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
    this.number(indices, face, g);
    this.faces++;
    return true;
  }

  private number(indices: Bvh['indices'], face: number, g: number): void {
    const { vertex, edge } = this;
    const o = this.faces * 3;
    for (let k = 0; k < 3; k++) vertex[o + k] = this.numbers.of(indices[face * 3 + k], g);
    for (let k = 0; k < 3; k++) {
      const u = vertex[o + k];
      const v = vertex[o + (k === 2 ? 0 : k + 1)];
      const e = this.pairs.of(u < v ? u : v, u < v ? v : u);
      edge[o + k] = e;
      if (e === this.edges) {
        this.edges++;
        this.first[e] = o + k;
        this.sharing[e] = 1;
      } else {
        this.second[e] = o + k;
        if (this.sharing[e] < 3) this.sharing[e]++;
      }
    }
  }

  /** The greatest height of its faces at a place that is no more than `most`; −Infinity where there is none. */
  height(x: number, y: number, most: number): number {
    const { corners: c, boxes, planes } = this;
    let best = -Infinity;
    for (let f = 0; f < this.faces; f++) {
      if (x < boxes[f * 4] || x > boxes[f * 4 + 1] || y < boxes[f * 4 + 2] || y > boxes[f * 4 + 3]) continue;
      const h = planes[f * 3] * x + planes[f * 3 + 1] * y + planes[f * 3 + 2];
      if (this.isFlat[f] === 0 || h <= best || h > most) continue;
      let left = false;
      let right = false;
      for (let o = f * 9, w = o + 6, k = 0; k < 3; k++, w = o, o += 3) {
        const side = (c[o] - c[w]) * (y - c[w + 1]) - (c[o + 1] - c[w + 1]) * (x - c[w]);
        if (side > 0) left = true;
        else if (side < 0) right = true;
      }
      if (!left || !right) best = h;
    }
    return best;
  }

  /** How an edge lies between its faces. */
  edgeKind(e: number): number {
    if (this.kinds[e] === 0) this.kinds[e] = this.kindOf(e) + 1;
    return this.kinds[e] - 1;
  }

  private kindOf(e: number): number {
    // A third face makes an outline of it.
    if (this.sharing[e] !== 2) return EDGE.outline;
    const { corners: c, planes } = this;
    const at = this.first[e];
    const f = Math.floor(at / 3);
    const g = Math.floor(this.second[e] / 3);
    if (this.isFlat[f] === 0 || this.isFlat[g] === 0) return EDGE.outline;
    const a = at * 3;
    const b = (at === f * 3 + 2 ? f * 3 : at + 1) * 3;
    const own = thirdOf(f, at) * 3;
    const other = thirdOf(g, this.second[e]) * 3;
    const ux = c[b] - c[a];
    const uy = c[b + 1] - c[a + 1];
    const mine = ux * (c[own + 1] - c[a + 1]) - uy * (c[own] - c[a]);
    const theirs = ux * (c[other + 1] - c[a + 1]) - uy * (c[other] - c[a]);
    // A sliver adds no area.
    const isWide = Math.abs(theirs) > 1e-9 * (ux * ux + uy * uy);
    if (!isWide || mine * theirs >= 0) return EDGE.outline;
    const level = planes[f * 3] * c[other] + planes[f * 3 + 1] * c[other + 1] + planes[f * 3 + 2];
    return c[other + 2] < level ? EDGE.ridge : EDGE.valley;
  }
}

/** The corner of a face that an edge does not have. @param at where the edge begins */
const thirdOf = (f: number, at: number): number => (at === f * 3 ? at + 2 : at - 1);

/** Numbers pairs of whole numbers in the order in which they come: a table of a fixed size, open to the next free place. */
class Numbers {
  count = 0;
  private mask: number;
  private at: Int32Array;
  private as: Uint32Array;
  private bs: Uint32Array;

  constructor(most: number) {
    let size = 1;
    while (size < most * 2) size *= 2;
    this.mask = size - 1;
    this.at = new Int32Array(size);
    this.as = new Uint32Array(most);
    this.bs = new Uint32Array(most);
  }

  clear(): void {
    this.at.fill(0);
    this.count = 0;
  }

  of(a: number, b: number): number {
    let i = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) & this.mask;
    for (; this.at[i] !== 0; i = (i + 1) & this.mask) {
      const n = this.at[i] - 1;
      if (this.as[n] === a && this.bs[n] === b) return n;
    }
    this.as[this.count] = a;
    this.bs[this.count] = b;
    this.at[i] = ++this.count;
    return this.count - 1;
  }
}
