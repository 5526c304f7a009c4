import { atan2, cos, hypot, pow, sin } from '../../math/portable';
import { quatBetween, quatConjugate, quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { cross, dot, length, normalize, scale, sub, type Vec3 } from '../../math/vec3';
import type { Topology } from '../lines/topology';
import type { Rings } from './rings';

/** Numbers that tell how a ring is: its middle, and the way in which it is flattened, as long as the share by which. */
export const STATE = 6;

const NOWHERE: Vec3 = [0, 0, 0];
const at = (a: ArrayLike<number>, o: number): Vec3 => [a[o], a[o + 1], a[o + 2]];

/**
 * Puts the vertices of tubes about the middles of their rings: turned with the way, without a twist; flattened and
 * widened by the same factor, so that every section keeps its area; and the tube as a whole keeps its volume.
 */
export class Skin {
  /** Middle of each ring, and how far its vertices are from it at the most. */
  readonly middle: Float64Array;
  readonly radius: Float64Array;
  private offset: Float64Array;
  private ahead: Vec3[];
  private volume: Float64Array;
  /** The tube of each ring. */
  private tubeOf: Int32Array;
  /** Faces of each tube, welded, and what closes their open ends: two vertices and a ring. */
  private faces: Uint32Array[];
  private rims: { a: number; b: number; ring: number }[][];

  /** @param start xyz a welded vertex @param indices three vertices a face, not welded */
  constructor(
    private rings: Rings,
    start: Float64Array,
    topology: Topology,
    indices: Uint32Array,
  ) {
    const { of, count, tubes } = rings;
    this.middle = middles(rings, start);
    this.radius = new Float64Array(count);
    this.offset = new Float64Array(start.length);
    for (let i = 0; i < of.length; i++) {
      const [o, k] = [i * 3, of[i]];
      for (let a = 0; a < 3; a++) this.offset[o + a] = start[o + a] - this.middle[k * 3 + a];
      const away = hypot(this.offset[o], this.offset[o + 1], this.offset[o + 2]);
      this.radius[k] = Math.max(this.radius[k], away);
    }
    this.ahead = tangents(rings, this.middle, 3);
    const tubeOf = (this.tubeOf = new Int32Array(count));
    tubes.forEach(({ from, to }, t) => tubeOf.fill(t, from, to));
    const faces: number[][] = tubes.map(() => []);
    for (let f = 0; f < indices.length; f += 3) {
      const corner = [0, 1, 2].map((k) => topology.weld[indices[f + k]]);
      faces[tubeOf[of[corner[0]]]].push(...corner);
    }
    this.faces = faces.map((list) => Uint32Array.from(list));
    this.rims = tubes.map(() => []);
    for (let e = 0; e < topology.edges.length / 2; e++) {
      if (topology.faces[e * 2 + 1] !== -1) continue;
      // The edge runs as its only face does; what closes it runs the other way.
      const [b, a] = [topology.edges[e * 2], topology.edges[e * 2 + 1]];
      this.rims[tubeOf[of[a]]].push({ a, b, ring: of[a] });
    }
    this.volume = Float64Array.from(tubes, (_, t) => this.volumeOf(t, start, this.middle, 3));
  }

  /** Writes where the vertices are. @param state {@link STATE} numbers a ring @param out xyz a welded vertex */
  write(state: Float64Array, out: Float64Array): void {
    const { rings, volume } = this;
    const wide = new Float64Array(rings.tubes.length).fill(1);
    const now = tangents(rings, state, STATE);
    const turns = this.turns(now);
    this.put(state, now, turns, wide, out);
    // Where it bends its sections stand closer on one side: what that takes is given back in width.
    for (let round = 0; round < 2; round++) {
      rings.tubes.forEach((_, t) => {
        const now = this.volumeOf(t, out, state, STATE);
        const factor = volume[t] / now;
        if (factor > 0.5 && factor < 2) wide[t] *= factor;
      });
      this.put(state, now, turns, wide, out);
    }
  }

  /** How each ring is turned from what it was: about the way as little as can be, ring after ring. */
  private turns(now: Vec3[]): Quat[] {
    const out: Quat[] = [];
    for (const { from, to, closed } of this.rings.tubes) {
      let turn: Quat = [0, 0, 0, 1];
      for (let k = from; k < to; k++)
        out[k] = turn = quatMultiply(quatBetween(quatRotate(turn, this.ahead[k]), now[k]), turn);
      if (!closed) continue;
      // Once round it comes back turned about the way: spread over all of it.
      const again = quatMultiply(quatBetween(quatRotate(turn, this.ahead[from]), now[from]), turn);
      const side = normalize(sub([0.6, 0.48, 0.64], scale(now[from], dot([0.6, 0.48, 0.64], now[from]))));
      const was = quatRotate(again, quatRotate(quatConjugate(out[from]), side));
      const twist = atan2(dot(cross(side, was), now[from]), dot(side, was));
      for (let k = from; k < to; k++) {
        const half = (-twist * (k - from)) / (to - from) / 2;
        const s = sin(half);
        out[k] = quatMultiply([now[k][0] * s, now[k][1] * s, now[k][2] * s, cos(half)], out[k]);
      }
    }
    return out;
  }

  private put(state: Float64Array, now: Vec3[], turns: Quat[], wide: Float64Array, out: Float64Array): void {
    const { rings, offset, tubeOf } = this;
    const shape = Array.from({ length: rings.count }, (_, k) => {
      const q = at(state, k * STATE + 3);
      const flat = length(q);
      const w = wide[tubeOf[k]];
      const across = sub(q, scale(now[k], dot(q, now[k])));
      const long = length(across);
      if (!(long > 1e-9)) return { down: NOWHERE, side: NOWHERE, low: 1, high: 1, all: Math.sqrt(w) };
      const down = scale(across, 1 / long);
      // Hardly flattened it widens all around, else to its sides alone: what it lies on stays where it is.
      const share = Math.min(1, flat / 0.1);
      return {
        down,
        side: cross(now[k], down),
        low: 1 - flat,
        high: pow(w, share) / (1 - flat),
        all: pow(w, 0.5 * (1 - share)),
      };
    });
    for (let i = 0; i < rings.of.length; i++) {
      const [o, k] = [i * 3, rings.of[i]];
      const own = quatRotate(turns[k], at(offset, o));
      const { down, side, low, high, all } = shape[k];
      const a = dot(own, down) * (low - 1);
      const b = dot(own, side) * (high - 1);
      for (let x = 0; x < 3; x++)
        out[o + x] = state[k * STATE + x] + (own[x] + down[x] * a + side[x] * b) * all;
    }
  }

  /** The volume in a tube, its open ends closed towards the middles of their rings. */
  private volumeOf(t: number, p: ArrayLike<number>, middle: ArrayLike<number>, stride: number): number {
    const faces = this.faces[t];
    // From a place near it, so that nothing is lost far from the origin.
    const o = at(middle, this.rings.tubes[t].from * stride);
    const six = (a: Vec3, b: Vec3, c: Vec3) => dot(sub(a, o), cross(sub(b, o), sub(c, o)));
    let sum = 0;
    for (let f = 0; f < faces.length; f += 3)
      sum += six(at(p, faces[f] * 3), at(p, faces[f + 1] * 3), at(p, faces[f + 2] * 3));
    for (const { a, b, ring } of this.rims[t])
      sum += six(at(p, a * 3), at(p, b * 3), at(middle, ring * stride));
    return sum / 6;
  }
}

/** The mean of each ring's vertices; xyz each. */
function middles({ of, count }: Rings, p: Float64Array): Float64Array {
  const out = new Float64Array(count * 3);
  const many = new Float64Array(count);
  for (let i = 0; i < of.length; i++) {
    many[of[i]]++;
    for (let a = 0; a < 3; a++) out[of[i] * 3 + a] += p[i * 3 + a];
  }
  for (let o = 0; o < out.length; o++) out[o] /= many[(o / 3) | 0];
  return out;
}

/** Which way each ring looks: from the one before to the one after it. */
function tangents({ tubes }: Rings, p: ArrayLike<number>, stride: number): Vec3[] {
  const out: Vec3[] = [];
  for (const { from, to, closed } of tubes)
    for (let k = from; k < to; k++) {
      const before = k > from ? k - 1 : closed ? to - 1 : k;
      const after = k < to - 1 ? k + 1 : closed ? from : k;
      out[k] = normalize(sub(at(p, after * stride), at(p, before * stride)), out[k - 1]);
    }
  return out;
}
