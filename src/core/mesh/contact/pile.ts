import { cross, normalize, type Vec3 } from '../../math/vec3';
import { GRAZE, Overlap } from './overlap';

/**
 * Things that fall one after the other along one direction, each onto those before it. Contact is exact on triangles.
 */
export interface Pile {
  /**
   * How far a thing can go along the direction until it rests on one of the pile; negative where it has to go back,
   * Infinity where nothing is below or above it.
   * @param triangles nine numbers each, in the scene
   */
  room(triangles: Float64Array): number;
  add(triangles: Float64Array): void;
}

/** A thing over more cells than these is looked for by itself. */
const MOST_CELLS = 1024;

/** A thing as seen along the direction: x, y across it, and its height against it. */
interface Seen {
  /** Nine numbers a triangle: x, y, height of its corners. */
  t: Float64Array;
  /** Six numbers a triangle: least and greatest x, y and height. */
  box: Float64Array;
  /** Triangles from the lowest up, and from the highest down. */
  rising: Uint32Array;
  falling: Uint32Array;
  /** The same six of the whole. */
  whole: Float64Array;
}

/** @param direction unit, the way of falling @param width about how wide things are, metres */
export function newPile(direction: Vec3, width: number): Pile {
  const other: Vec3 = Math.abs(direction[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1];
  const e = normalize(cross(direction, other));
  const f = cross(direction, e);
  const cell = Math.max(width, 1e-3);
  const cells = new Map<string, Seen[]>();
  const all: Seen[] = [];
  /** Things that lie over more cells than are worth walking: everything is held against them. */
  const wide: Seen[] = [];
  /** @returns whether a thing is wide, and none of its cells were walked */
  const each = (w: Float64Array, act: (key: string) => void): boolean => {
    const [i0, j0, i1, j1] = [w[0], w[1], w[3], w[4]].map((v) => Math.floor(v / cell));
    if (!((i1 - i0 + 1) * (j1 - j0 + 1) <= MOST_CELLS)) return true;
    for (let i = i0; i <= i1; i++) for (let j = j0; j <= j1; j++) act(`${i} ${j}`);
    return false;
  };
  const see = (triangles: Float64Array): Seen => {
    const t = new Float64Array(triangles.length);
    for (let o = 0; o < t.length; o += 3) {
      const [x, y, z] = [triangles[o], triangles[o + 1], triangles[o + 2]];
      t[o] = e[0] * x + e[1] * y + e[2] * z;
      t[o + 1] = f[0] * x + f[1] * y + f[2] * z;
      t[o + 2] = -(direction[0] * x + direction[1] * y + direction[2] * z);
    }
    return seen(t);
  };
  return {
    room(triangles) {
      const a = see(triangles);
      let best = Infinity;
      const met = new Set<Seen>(wide);
      const widest = each(a.whole, (key) => cells.get(key)?.forEach((b) => met.add(b)));
      for (const b of widest ? all : met)
        if (apart(a.whole, 0, b.whole, 0) || a.whole[2] - b.whole[5] >= best) continue;
        else best = between(a, b, best);
      return best;
    },
    add(triangles) {
      const one = see(triangles);
      all.push(one);
      const widest = each(one.whole, (key) => {
        const list = cells.get(key);
        if (list) list.push(one);
        else cells.set(key, [one]);
      });
      if (widest) wide.push(one);
    },
  };
}

function seen(t: Float64Array): Seen {
  const n = t.length / 9;
  const box = new Float64Array(n * 6);
  const whole = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let k = 0; k < n; k++)
    for (let axis = 0; axis < 3; axis++) {
      const [p, q, r] = [t[k * 9 + axis], t[k * 9 + 3 + axis], t[k * 9 + 6 + axis]];
      box[k * 6 + axis] = Math.min(p, q, r);
      box[k * 6 + 3 + axis] = Math.max(p, q, r);
      whole[axis] = Math.min(whole[axis], box[k * 6 + axis]);
      whole[3 + axis] = Math.max(whole[3 + axis], box[k * 6 + 3 + axis]);
    }
  const all = () => Uint32Array.from({ length: n }, (_, k) => k);
  return {
    t,
    box,
    whole,
    rising: all().sort((i, j) => box[i * 6 + 2] - box[j * 6 + 2]),
    falling: all().sort((i, j) => box[j * 6 + 5] - box[i * 6 + 5]),
  };
}

/** Whether two boxes do not overlap as seen along the direction. */
const apart = (a: Float64Array, i: number, b: Float64Array, j: number): boolean =>
  a[i] > b[j + 3] - GRAZE ||
  a[i + 3] < b[j] + GRAZE ||
  a[i + 1] > b[j + 4] - GRAZE ||
  a[i + 4] < b[j + 1] + GRAZE;

const overlap = new Overlap();

/** The least height of one over the other, if it is less than `best`. */
function between(a: Seen, b: Seen, best: number): number {
  for (const i of a.rising) {
    const low = a.box[i * 6 + 2];
    if (low - b.whole[5] >= best) break;
    for (const j of b.falling) {
      if (low - b.box[j * 6 + 5] >= best) break;
      if (apart(a.box, i * 6, b.box, j * 6)) continue;
      best = Math.min(best, overlap.least(a.t, i * 9, b.t, j * 9));
    }
  }
  return best;
}
