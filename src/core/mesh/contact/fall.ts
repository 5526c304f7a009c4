import { solve3 } from '../../math/solve';
import { cross, dot, normalize, scale, type Vec3 } from '../../math/vec3';
import { DEEPEST, type Bvh } from '../bvh';
import { firstHit, noHit } from '../bvhQuery';
import { HullFall } from './hullFall';
import { hullOf, type Hull } from './hull';
import { GRAZE, Overlap } from './overlap';
import { times3 } from './times3';
import { turnBox } from './turnBox';

/** A mesh in its own space that falls, with room for what of it was turned into the frame of the fall. */
export interface Faller {
  tree: Bvh;
  /** Six numbers a node, nine a triangle, as it is posed now; stale unless stamped with the pose's number. */
  boxes: Float64Array;
  corners: Float64Array;
  boxOf: Uint32Array;
  cornersOf: Uint32Array;
  pose: number;
  /** Made when it is first asked for; null where there is none that helps. */
  hull?: Hull | null;
}

const fallers = new WeakMap<Bvh, Faller>();

/** The faller of a tree over triangles in their own space, metres from the foot: one, whoever asks. */
export function fallerOf(tree: Bvh): Faller {
  const made = fallers.get(tree) ?? newFaller(tree);
  fallers.set(tree, made);
  return made;
}

/** @param tree over its triangles in its own space, metres from the foot */
export function newFaller(tree: Bvh): Faller {
  return {
    tree,
    boxes: new Float64Array(tree.nodes * 6),
    corners: new Float64Array(tree.indices.length * 3),
    boxOf: new Uint32Array(tree.nodes),
    cornersOf: new Uint32Array(tree.indices.length / 3),
    pose: 0,
  };
}

/** The two triangles that met: of the faller, and of one of the grounds. */
export interface Touched {
  own: number;
  ground: number;
  face: number;
}

const MOST = DEEPEST * 4 + 8;
const ownNode = new Int32Array(MOST);
const groundNode = new Int32Array(MOST);
const bound = new Float64Array(MOST);
/** Steeper ground (cosine) makes no plane to count from. */
const STEEP = 0.2;
/** Poses whose matrices differ by less are one. */
const ROUNDING = 1e-13;
/** A pair that is known already is found again by so much, metres. */
const KNOWN = 1e-9;
/** Less room than the nearest pair by less than this, metres, is not looked for. */
const ALIKE = 1e-11;
const ownStack = new Int32Array(MOST);
const ownBound = new Float64Array(MOST);
const overlap = new Overlap();
const hit = noHit();

/**
 * Falling onto grounds along a direction until something touches; exact on triangles. Both meshes are walked through
 * their trees together: a pair of boxes that cannot meet before the nearest pair of triangles found is passed by.
 *
 * Heights count along the direction, from the foot. What lies over a thing, seen as a whole at the place where it
 * stands, is a roof and does not hold it; what reaches into it does.
 *
 * @example
 * const fall = new Fall([terrain.tree()]);
 * fall.from([3, 12, 0], [0, -1, 0]);
 * const metres = fall.room(newFaller(crate), rotationAndSize);
 */
export class Fall {
  /** Rows of the matrix from the scene, about the foot: across, across, height. */
  readonly frame = new Float64Array(9);
  private foot: Vec3 = [0, 0, 0];
  /** Unit, the way of falling. */
  direction: Vec3 = [0, -1, 0];
  /** From the faller's own space to the frame. */
  readonly posed = new Float64Array(9);
  private other = new Float64Array(9);
  private box = new Float64Array(6);
  private top = 0;
  private roofs = false;
  private asked = false;
  /** Of the ground's triangle that is looked at: a, b, c of h = a·x + b·y + c, its height, and what it covers. */
  private plane = new Float64Array(4);
  private covers = new Float64Array(4);
  /** What met last. */
  readonly touched: Touched = { own: -1, ground: -1, face: -1 };

  /** What was asked last from here, and the answer: the room of a thing posed by `m`. */
  readonly known = { faller: null as Faller | null, m: new Float64Array(9), room: 0 };
  readonly hullFall: HullFall;
  /** Whether the last answer was the hull's. */
  isByHull = false;

  constructor(private grounds: readonly Bvh[]) {
    this.hullFall = new HullFall(grounds);
  }

  /**
   * Sets the place of the foot, metres in the scene, and the unit direction of falling.
   * @param normal unit, of the ground about there: heights count from the plane square to it, along the direction, so
   * that boxes lie along a slope and are thin. What is found is the same.
   */
  from(foot: Vec3, direction: Vec3, normal?: Vec3): void {
    const e = normalize(cross(direction, Math.abs(direction[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1]));
    const f = cross(direction, e);
    const facing = normal ? -dot(normal, direction) : 0;
    const h = scale(facing > STEEP ? normal! : direction, facing > STEEP ? 1 / facing : -1);
    const { frame } = this;
    let isSame = sameAs(foot, this.foot);
    for (let a = 0; a < 3; a++) {
      isSame &&= frame[a] === e[a] && frame[3 + a] === f[a] && frame[6 + a] === h[a];
      frame[a] = e[a];
      frame[3 + a] = f[a];
      frame[6 + a] = h[a];
    }
    this.foot = [...foot];
    this.direction = direction;
    if (!isSame) this.forget();
  }

  /** Forgets what was gathered about a place, and what was asked there. */
  forget(): void {
    this.hullFall.moved();
    this.known.faller = null;
  }

  /** Takes over what is known of a thing here from one who asked. @param m rows of its matrix @param room metres */
  learn(faller: Faller, m: ArrayLike<number>, room: number): void {
    this.known.faller = faller;
    this.known.m.set(m);
    this.known.room = room;
  }

  /** Poses a thing for questions about the ground under it; its hull, where it has one that helps. */
  pose(faller: Faller, m: ArrayLike<number>): Hull | null {
    times3(this.frame, m, this.posed);
    return faller.hull === undefined ? (faller.hull = hullOf(trianglesOf(faller.tree))) : faller.hull;
  }

  /** Gathers the ground under a thing and about it, where that is little, so that it may tilt there. */
  about(faller: Faller, m: ArrayLike<number>): void {
    const hull = this.pose(faller, m);
    if (!hull) return;
    this.hullFall.gather(hull, this.posed, this.frame, this.foot);
    this.known.faller = null;
  }

  /** The greatest height of the ground at a place of the frame that is no more than `most`; −Infinity where none is. */
  height(x: number, y: number, most: number): number {
    const { frame: b, foot, direction: d } = this;
    const gathered = this.hullFall.height(x, y, most);
    if (gathered === gathered) return gathered;
    const back =
      most - x * (b[6] * b[0] + b[7] * b[1] + b[8] * b[2]) - y * (b[6] * b[3] + b[7] * b[4] + b[8] * b[5]);
    let least = Infinity;
    for (const ground of this.grounds) {
      const [ox, oy, oz] = [0, 1, 2].map((a) => foot[a] + b[a] * x + b[3 + a] * y - d[a] * back);
      if (firstHit(ground, ox, oy, oz, d[0], d[1], d[2], 0, least, hit)) least = hit.t;
    }
    return most - least;
  }

  /**
   * How far a thing goes along the direction from where its foot is until it touches; negative where it has to go back
   * to enter nothing, Infinity where nothing is beneath it.
   * @param m rows of the 3 × 3 matrix from its own space to the scene, about its foot
   * @param atMost a room that is known to be too much, if one is @param near share of the thing's width within which what
   * would hold it next is to be known too, where its hull can tell
   */
  room(faller: Faller, m: ArrayLike<number>, atMost = Infinity, near = 0): number {
    if (near === 0 && this.isKnown(faller, m)) return this.known.room;
    const room = this.look(faller, m, atMost, near);
    this.learn(faller, m, room);
    return room;
  }

  /** Whether what is asked was asked just before: a thing that was tilted until it rests is let down as it was then. */
  private isKnown(faller: Faller, m: ArrayLike<number>): boolean {
    return this.known.faller === faller && isOnePose(m, this.known.m);
  }

  private look(faller: Faller, m: ArrayLike<number>, atMost: number, near: number): number {
    if (faller.tree.nodes === 0) return Infinity;
    const hull = this.pose(faller, m);
    const quick = hull
      ? this.hullFall.room(hull, this.posed, this.frame, this.foot, atMost + KNOWN, near)
      : NaN;
    this.isByHull = quick === quick;
    if (this.isByHull) return quick;
    faller.pose++;
    this.top = faller.boxes[this.boxed(faller, 0) + 5];
    const known = atMost < Infinity ? atMost : this.underLowest(faller, m);
    let best = this.first(faller, known + KNOWN);
    if (this.touched.own < 0) best = this.first(faller, Infinity);
    // Most often nothing lies over it: only where what met first does, everything is asked whether it is a roof.
    if (best < 0 && this.lastIsRoof(faller)) {
      this.asked = true;
      best = this.pass(faller, 0, Infinity);
    }
    // Raised, it may reach into what was a roof.
    for (let at = 0; this.roofs && best < at;) {
      at = best;
      this.roofs = false;
      this.asked = true;
      best = this.pass(faller, at, best);
    }
    return best;
  }

  /** What meets first where no roof is asked for, if it leaves less room than `atMost`. */
  private first(faller: Faller, atMost: number): number {
    this.roofs = false;
    this.asked = false;
    this.touched.own = -1;
    const best = this.pass(faller, 0, atMost);
    return this.touched.own < 0 ? Infinity : best;
  }

  /** The room under the lowest corner: it is not the least, but seldom far from it. */
  private underLowest(faller: Faller, m: ArrayLike<number>): number {
    const { tree, boxes, corners } = faller;
    let node = 0;
    while (tree.count[node] === 0) {
      const [left, right] = [node + 1, tree.start[node]];
      node = boxes[this.boxed(faller, left) + 2] <= boxes[this.boxed(faller, right) + 2] ? left : right;
    }
    let low = this.cornered(faller, tree.order[tree.start[node]]);
    for (let i = tree.start[node]; i < tree.start[node] + tree.count[node]; i++) {
      const o = this.cornered(faller, tree.order[i]);
      for (let k = o; k < o + 9; k += 3) if (corners[k + 2] < corners[low + 2]) low = k;
    }
    const { foot, direction: d } = this;
    const p = tree.positions;
    const c = tree.indices[low / 3] * 3;
    const x = foot[0] + m[0] * p[c] + m[1] * p[c + 1] + m[2] * p[c + 2];
    const y = foot[1] + m[3] * p[c] + m[4] * p[c + 1] + m[5] * p[c + 2];
    const z = foot[2] + m[6] * p[c] + m[7] * p[c + 1] + m[8] * p[c + 2];
    let most = Infinity;
    for (const ground of this.grounds)
      if (firstHit(ground, x, y, z, d[0], d[1], d[2], 0, most, hit)) most = hit.t;
    return most;
  }

  /** Nine numbers: a triangle of a ground in the frame of the fall. */
  groundFace(ground: number, face: number, out: Float64Array): Float64Array {
    const { frame: b, foot } = this;
    const { positions: p, indices } = this.grounds[ground];
    for (let k = 0; k < 3; k++) {
      const o = indices[face * 3 + k] * 3;
      const x = p[o] - foot[0];
      const y = p[o + 1] - foot[1];
      const z = p[o + 2] - foot[2];
      out[k * 3] = b[0] * x + b[1] * y + b[2] * z;
      out[k * 3 + 1] = b[3] * x + b[4] * y + b[5] * z;
      out[k * 3 + 2] = b[6] * x + b[7] * y + b[8] * z;
    }
    return out;
  }

  /** The least room of all pairs that are no roof `at` that far along, if it is less than `best`. */
  private pass(faller: Faller, at: number, best: number): number {
    const { count, start } = faller.tree;
    for (let g = 0; g < this.grounds.length; g++) {
      const ground = this.grounds[g];
      if (ground.nodes === 0) continue;
      let top = 1;
      ownNode[0] = groundNode[0] = 0;
      bound[0] = -Infinity;
      while (top > 0) {
        if (bound[--top] >= best - ALIKE) continue;
        const own = ownNode[top];
        const node = groundNode[top];
        if (ground.count[node] > 0) {
          best = this.onLeaf(faller, own, g, node, at, best);
          continue;
        }
        // The wider of the two is opened.
        const opens = count[own] === 0 && this.width(faller, own) > widthOf(ground.bounds, node * 6);
        const a = opens ? own + 1 : own;
        const b = opens ? start[own] : own;
        const n = opens ? node : node + 1;
        const m = opens ? node : ground.start[node];
        const first = this.bound(faller, a, ground, n, at);
        const second = this.bound(faller, b, ground, m, at);
        // What may meet sooner is looked at first.
        const inOrder = first <= second;
        ownNode[top] = inOrder ? b : a;
        groundNode[top] = inOrder ? m : n;
        bound[top++] = inOrder ? second : first;
        ownNode[top] = inOrder ? a : b;
        groundNode[top] = inOrder ? n : m;
        bound[top++] = inOrder ? first : second;
      }
    }
    return best;
  }

  /** No pair of triangles of two boxes has less room than this; Infinity where none can meet. */
  private bound(faller: Faller, own: number, ground: Bvh, node: number, at: number): number {
    const { boxes } = faller;
    const o = this.boxed(faller, own);
    const w = this.box;
    turnBox(this.frame, ground.bounds, node * 6, this.foot, w, 0);
    if (
      w[0] > boxes[o + 3] - GRAZE ||
      w[3] < boxes[o] + GRAZE ||
      w[1] > boxes[o + 4] - GRAZE ||
      w[4] < boxes[o + 1] + GRAZE
    )
      return Infinity;
    if (this.top - w[2] <= at) {
      this.roofs = true;
      return Infinity;
    }
    return boxes[o + 2] - w[5];
  }

  private width({ boxes }: Faller, own: number): number {
    const o = own * 6;
    return Math.max(boxes[o + 3] - boxes[o], boxes[o + 4] - boxes[o + 1], boxes[o + 5] - boxes[o + 2]);
  }

  /** What is under `from` in the faller's tree against the triangles of a leaf of a ground, one after the other. */
  private onLeaf(faller: Faller, from: number, g: number, node: number, at: number, best: number): number {
    const { tree, corners } = faller;
    const { start, count, order } = this.grounds[g];
    const { other: t, plane, covers } = this;
    for (let j = start[node]; j < start[node] + count[node]; j++) {
      this.groundFace(g, order[j], t);
      if (!this.lookAt(t, faller.boxes, from * 6)) continue;
      const a = plane[0];
      const b = plane[1];
      const c = plane[2];
      const x0 = covers[0];
      const x1 = covers[1];
      const y0 = covers[2];
      const y1 = covers[3];
      let top = 0;
      ownStack[top] = from;
      ownBound[top++] = this.over(faller, from);
      while (top > 0) {
        if (ownBound[--top] >= best - ALIKE) continue;
        const own = ownStack[top];
        if (tree.count[own] === 0) {
          const left = own + 1;
          const right = tree.start[own];
          const l = this.over(faller, left);
          const r = this.over(faller, right);
          ownStack[top] = l <= r ? right : left;
          ownBound[top++] = l <= r ? r : l;
          ownStack[top] = l <= r ? left : right;
          ownBound[top++] = l <= r ? l : r;
          continue;
        }
        for (let i = tree.start[own]; i < tree.start[own] + tree.count[own]; i++) {
          const o = this.cornered(faller, tree.order[i]);
          const low = Math.min(
            corners[o + 2] - a * corners[o] - b * corners[o + 1],
            corners[o + 5] - a * corners[o + 3] - b * corners[o + 4],
            corners[o + 8] - a * corners[o + 6] - b * corners[o + 7],
          );
          if (low - c >= best - ALIKE) continue;
          if (Math.min(corners[o], corners[o + 3], corners[o + 6]) > x1) continue;
          if (Math.max(corners[o], corners[o + 3], corners[o + 6]) < x0) continue;
          if (Math.min(corners[o + 1], corners[o + 4], corners[o + 7]) > y1) continue;
          if (Math.max(corners[o + 1], corners[o + 4], corners[o + 7]) < y0) continue;
          const room = overlap.least(corners, o, t, 0);
          if (room >= best) continue;
          if (this.asked && room < at && this.isRoof(faller, o, at)) {
            this.roofs = true;
            continue;
          }
          best = room;
          this.touched.own = tree.order[i];
          this.touched.ground = g;
          this.touched.face = order[j];
        }
      }
    }
    return best;
  }

  /**
   * Takes a triangle of the ground; one on edge is taken for a level one as high as it is.
   * @returns whether anything of the box at `o` can be over it
   */
  private lookAt(t: Float64Array, boxes: Float64Array, o: number): boolean {
    const { plane, covers } = this;
    covers[0] = Math.min(t[0], t[3], t[6]) + GRAZE;
    covers[1] = Math.max(t[0], t[3], t[6]) - GRAZE;
    covers[2] = Math.min(t[1], t[4], t[7]) + GRAZE;
    covers[3] = Math.max(t[1], t[4], t[7]) - GRAZE;
    if (boxes[o] > covers[1] || boxes[o + 3] < covers[0]) return false;
    if (boxes[o + 1] > covers[3] || boxes[o + 4] < covers[2]) return false;
    const ux = t[3] - t[0];
    const uy = t[4] - t[1];
    const uh = t[5] - t[2];
    const vx = t[6] - t[0];
    const vy = t[7] - t[1];
    const vh = t[8] - t[2];
    const twice = ux * vy - uy * vx;
    const flat = Math.abs(twice) > 1e-9 * (ux * ux + uy * uy + vx * vx + vy * vy);
    plane[3] = Math.max(t[2], t[5], t[8]);
    plane[0] = flat ? (uh * vy - uy * vh) / twice : 0;
    plane[1] = flat ? (ux * vh - uh * vx) / twice : 0;
    plane[2] = flat ? t[2] - plane[0] * t[0] - plane[1] * t[1] : plane[3];
    return true;
  }

  /** No part of a box has less room over the triangle that is looked at than its corner that is lowest over its plane. */
  private over(faller: Faller, own: number): number {
    const { boxes } = faller;
    const { plane, covers } = this;
    const o = this.boxed(faller, own);
    if (
      boxes[o] > covers[1] ||
      boxes[o + 3] < covers[0] ||
      boxes[o + 1] > covers[3] ||
      boxes[o + 4] < covers[2]
    )
      return Infinity;
    const a = plane[0];
    const b = plane[1];
    const under = plane[2] + a * boxes[a > 0 ? o + 3 : o] + b * boxes[b > 0 ? o + 4 : o + 1];
    return boxes[o + 2] - (under < plane[3] ? under : plane[3]);
  }

  /** Whether what met last lies over the whole faller. */
  private lastIsRoof(faller: Faller): boolean {
    const { own, ground, face } = this.touched;
    overlap.least(faller.corners, own * 9, this.groundFace(ground, face, this.other), 0);
    return this.isRoof(faller, own * 9, 0);
  }

  /** Whether the ground of the last overlap lies over the whole faller there. @param t where its corners begin */
  private isRoof({ tree, corners }: Faller, t: number, at: number): boolean {
    const { x, y, b } = overlap.middle();
    // From above it, straight down, in its own space.
    const above = this.top + 1;
    const o = solve3(this.posed, x, y, above);
    const d = solve3(this.posed, 0, 0, -1);
    const most = Math.max(corners[t + 2], corners[t + 5], corners[t + 8]);
    const top = firstHit(tree, ...o, ...d, 0, Infinity, hit) ? Math.max(most, above - hit.t) : most;
    return top - b <= at;
  }

  /** Where the box of a node begins, in the frame. */
  private boxed(faller: Faller, node: number): number {
    if (faller.boxOf[node] !== faller.pose) {
      faller.boxOf[node] = faller.pose;
      turnBox(this.posed, faller.tree.bounds, node * 6, ORIGIN, faller.boxes, node * 6);
    }
    return node * 6;
  }

  /** Where the corners of a triangle begin, in the frame. */
  private cornered(faller: Faller, face: number): number {
    if (faller.cornersOf[face] === faller.pose) return face * 9;
    faller.cornersOf[face] = faller.pose;
    const { positions: p, indices } = faller.tree;
    const m = this.posed;
    for (let k = 0; k < 3; k++) {
      const o = indices[face * 3 + k] * 3;
      const w = face * 9 + k * 3;
      faller.corners[w] = m[0] * p[o] + m[1] * p[o + 1] + m[2] * p[o + 2];
      faller.corners[w + 1] = m[3] * p[o] + m[4] * p[o + 1] + m[5] * p[o + 2];
      faller.corners[w + 2] = m[6] * p[o] + m[7] * p[o + 1] + m[8] * p[o + 2];
    }
    return face * 9;
  }
}

/** Whether two poses (nine numbers each) are one but for rounding. */
export function isOnePose(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  for (let k = 0; k < 9; k++) if (Math.abs(a[k] - b[k]) > ROUNDING) return false;
  return true;
}

const ORIGIN: Vec3 = [0, 0, 0];

const sameAs = (a: Vec3, b: Vec3): boolean => a[0] === b[0] && a[1] === b[1] && a[2] === b[2];

const widthOf = (b: Float64Array, o: number): number =>
  Math.max(b[o + 3] - b[o], b[o + 4] - b[o + 1], b[o + 5] - b[o + 2]);

/** Nine numbers a triangle. */
const trianglesOf = ({ positions: p, indices }: Bvh): Float64Array =>
  Float64Array.from({ length: indices.length * 3 }, (_, n) => p[indices[(n / 3) | 0] * 3 + (n % 3)]);
