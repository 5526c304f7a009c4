import type { Vec3 } from '../../math/vec3';
import { faceNormal, normalOn, placeOn, type TriMesh } from '../../mesh/triMesh';
import { through } from '../../mesh/surface';
import type { SurfaceStates } from '../context';
import type { Sites } from '../sites';
import { movedOver, type Pose } from '../steps/onSurface';

/** Places that a scatter has found, as settle takes them. */

export interface Ground {
  /** Of the surface. */
  id: string;
  states: SurfaceStates;
  /** Which of the surfaces it is: part of the slot. */
  part: number;
}

/** A growing list of places. */
export class SiteList {
  count = 0;
  slot: Float64Array;
  position: Float64Array;
  front: Float64Array;
  up: Float64Array;
  /** The face of its surface that each is on, and the weights of its second and third corner; −1 for free ones. */
  face: Int32Array;
  weights: Float64Array;

  constructor(room: number) {
    this.slot = new Float64Array(room);
    this.position = new Float64Array(room * 3);
    this.front = new Float64Array(room * 3);
    this.up = new Float64Array(room * 3);
    this.face = new Int32Array(room);
    this.weights = new Float64Array(room * 2);
  }

  private grow(): void {
    const room = Math.max(64, this.slot.length * 2);
    const more = (a: Float64Array, size: number) => {
      const out = new Float64Array(room * size);
      out.set(a);
      return out;
    };
    this.slot = more(this.slot, 1);
    for (const name of ['position', 'front', 'up'] as const) this[name] = more(this[name], 3);
    this.weights = more(this.weights, 2);
    const face = new Int32Array(room);
    face.set(this.face);
    this.face = face;
  }

  /** The surfaces that places are on, as they stand now, and the first place on each. */
  private on: { id: string; now: TriMesh; lean: number; from: number }[] = [];

  private put(slot: number, p: Vec3, front: Vec3, up: Vec3, face: number, u: number, v: number): void {
    if (this.count === this.slot.length) this.grow();
    const i = this.count++;
    this.slot[i] = slot;
    this.face[i] = face;
    this.weights[i * 2] = u;
    this.weights[i * 2 + 1] = v;
    for (let a = 0; a < 3; a++) {
      this.position[i * 3 + a] = p[a];
      this.front[i * 3 + a] = front[a];
      this.up[i * 3 + a] = up[a];
    }
  }

  /** A place in space: upright, its front to +Z. */
  addFree(slot: number, p: Vec3): void {
    this.put(slot, p, SOUTH, UP, -1, 0, 0);
  }

  /**
   * A place of a surface's material: its front goes with that.
   * @param lean 0 upright, 1 square to the surface
   */
  addOn(
    { id, states: { now, rest, place } }: Ground,
    slot: number,
    face: number,
    u: number,
    v: number,
    lean: number,
  ): void {
    if (this.on.at(-1)?.now !== now) this.on.push({ id, now, lean, from: this.count });
    const up = leaning(normalOn(now, face, u, v), lean);
    const front = squareTo(carried(rest, now, place, face), up);
    this.put(slot, placeOn(now, face, u, v), front, up, face, u, v);
  }

  /** Which surface each place is on, by its index in a list of ids; −1 for free ones. */
  surfaces(ids: readonly string[]): Int32Array {
    const out = new Int32Array(this.count).fill(-1);
    this.on.forEach(({ id, from }, k) => out.fill(ids.indexOf(id), from, this.on[k + 1]?.from));
    return out;
  }

  /** Some of the places, as a list of their own. @param rows in rising order */
  only(rows: Uint32Array): SiteList {
    const out = new SiteList(rows.length);
    out.count = rows.length;
    const copy = (from: Float64Array | Int32Array, to: Float64Array | Int32Array, size: number) =>
      rows.forEach((row, i) => {
        for (let a = 0; a < size; a++) to[i * size + a] = from[row * size + a];
      });
    copy(this.slot, out.slot, 1);
    copy(this.face, out.face, 1);
    copy(this.weights, out.weights, 2);
    for (const name of ['position', 'front', 'up'] as const) copy(this[name], out[name], 3);
    for (const on of this.on) {
      const from = rows.findIndex((row) => row >= on.from);
      if (from >= 0) out.on.push({ ...on, from });
    }
    return out;
  }

  sites(prop: Int32Array): Sites {
    const n = this.count;
    return {
      slot: this.slot.subarray(0, n),
      prop,
      s: new Float64Array(n),
      position: this.position.subarray(0, n * 3),
      front: this.front.subarray(0, n * 3),
      up: this.up.subarray(0, n * 3),
      outward: 1,
      // By its own name: others that come or go beside it change nothing of it.
      odd: (i) => this.slot[i] % 2 === 1,
      ...(this.on.length > 0 && {
        lean: (i: number) => this.surfaceUnder(i).lean,
        moved: (i: number, along: number, side: number, out: Pose) => this.moved(i, along, side, out),
      }),
    };
  }

  private surfaceUnder(i: number) {
    return this.on.findLast((o) => o.from <= i)!;
  }

  /** Moved on over its surface: to the place of it that is nearest to where that would be straight on. */
  private moved(i: number, along: number, side: number, out: Pose): boolean {
    const { now, lean } = this.surfaceUnder(i);
    const at = (a: Float64Array) => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]] as Vec3;
    const [p, front, up] = [at(this.position), at(this.front), at(this.up)];
    return movedOver(now, p, front, up, (n) => leaning(n, lean), along, side, out);
  }
}

const UP: Vec3 = [0, 1, 0];
const SOUTH: Vec3 = [0, 0, 1];

/** Upright leaned towards a normal. */
function leaning(normal: Vec3, lean: number): Vec3 {
  if (lean === 0) return UP;
  if (lean === 1) return normal;
  const up = normal.map((v, a) => v * lean + UP[a] * (1 - lean));
  const l = Math.sqrt(up[0] * up[0] + up[1] * up[1] + up[2] * up[2]);
  return l > 1e-9 ? [up[0] / l, up[1] / l, up[2] / l] : normal;
}

/** A direction's part square to another one, of unit length; any such where there is none. */
export function squareTo([x, y, z]: Vec3, up: Vec3): Vec3 {
  const k = x * up[0] + y * up[1] + z * up[2];
  const out: Vec3 = [x - up[0] * k, y - up[1] * k, z - up[2] * k];
  const l = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
  if (l > 1e-6) return [out[0] / l, out[1] / l, out[2] / l];
  return squareTo(Math.abs(up[1]) < 0.9 ? UP : [1, 0, 0], up);
}

/**
 * Where +Z of the scene has come to on a face since the surface was at rest: by its shares of two sides and the
 * normal, which go with the material.
 */
function carried(rest: TriMesh, now: TriMesh, place: Float64Array, face: number): Vec3 {
  return rest.positions === now.positions ? SOUTH : carriedWay(rest, now, place, face, SOUTH);
}

/** Where a direction has come to with the material of a face. @param place from the frame at rest; null: `way` is in it */
export function carriedWay(
  rest: TriMesh,
  now: TriMesh,
  place: Float64Array | null,
  face: number,
  way: Vec3,
): Vec3 {
  const was = frameOf(rest, face, place);
  const is = frameOf(now, face, null);
  // At right angles: shares are parts along the axes.
  const share = was.map((axis) => axis[0] * way[0] + axis[1] * way[1] + axis[2] * way[2]);
  return [0, 1, 2].map((a) => is.reduce((sum, axis, k) => sum + axis[a] * share[k], 0)) as Vec3;
}

/** A face's first side, what is square to it in the face, and its normal; each of unit length. */
function frameOf(mesh: TriMesh, face: number, place: Float64Array | null): [Vec3, Vec3, Vec3] {
  const n = turned(faceNormal(mesh, face), place);
  const [a, b] = [mesh.indices[face * 3] * 3, mesh.indices[face * 3 + 1] * 3];
  const side = [0, 1, 2].map((k) => mesh.positions[b + k] - mesh.positions[a + k]) as Vec3;
  const x = squareTo(turned(side, place), n);
  return [x, [n[1] * x[2] - n[2] * x[1], n[2] * x[0] - n[0] * x[2], n[0] * x[1] - n[1] * x[0]], n];
}

/** A direction in the scene, of unit length. */
function turned(way: Vec3, place: Float64Array | null): Vec3 {
  const to = place ? through(place, way).map((v, a) => v - place[12 + a]) : way;
  const l = Math.sqrt(to[0] * to[0] + to[1] * to[1] + to[2] * to[2]);
  return l > 0 ? [to[0] / l, to[1] / l, to[2] / l] : [0, 1, 0];
}
