import { channel, randomBase, randomOf } from '../../math/random';
import type { Triangles } from '../lines/topology';
import { areasOf, faceAt } from './areas';

/** Places on a mesh: each a place of its material, which stays what it is however the mesh is moved or deformed. */
export interface Spots {
  count: number;
  face: Uint32Array;
  /** Weights of the second and third corner of its face. */
  u: Float64Array;
  v: Float64Array;
  /** What each is known by, below 2^31; the same candidate has the same number, whatever else is asked for. */
  key: Float64Array;
  /** The round of candidates that each is one of. */
  level: Uint8Array;
}

const FACE = channel('scatter.face');
const FIRST = channel('scatter.first');
const SECOND = channel('scatter.second');

/** None yet. @param room for how many */
export const newSpots = (room: number): Spots => ({
  count: 0,
  face: new Uint32Array(room),
  u: new Float64Array(room),
  v: new Float64Array(room),
  key: new Float64Array(room),
  level: new Uint8Array(room),
});

/** The same with room for more. */
export function roomier(spots: Spots, room: number): Spots {
  const out = newSpots(room);
  out.count = spots.count;
  out.face.set(spots.face);
  out.u.set(spots.u);
  out.v.set(spots.v);
  out.key.set(spots.key);
  out.level.set(spots.level);
  return out;
}

/** One candidate: a place of the whole area. */
interface Candidate {
  face: number;
  u: number;
  v: number;
}

/** Candidates of one round over a mesh, each as likely anywhere on its area, fixed by seed, round and number alone. */
export interface Candidates {
  face(i: number): number;
  /** Where the i-th is on its face (Turk 1990: square root of the first draw). */
  place(i: number, out: Candidate): void;
}

/** @param seed of the scatter @param level of the round, from 0: each round has candidates of its own */
export function candidates(mesh: Triangles, seed: number, level: number): Candidates {
  const areas = areasOf(mesh);
  const own = (seed ^ Math.imul(level + 1, 0x51ed270b)) | 0;
  const [face, first, second] = [FACE, FIRST, SECOND].map((c) => randomBase(own, c));
  return {
    face: (i) => faceAt(areas, randomOf(face, i)),
    place(i, out) {
      const root = Math.sqrt(randomOf(first, i));
      const share = randomOf(second, i);
      out.u = root * (1 - share);
      out.v = root * share;
    },
  };
}

/** The first so many places that come by chance, evenly likely over the area. More keep those that there were. */
export function looseSpots(mesh: Triangles, seed: number, count: number): Spots {
  const out = newSpots(areasOf(mesh).total > 0 ? count : 0);
  const draw = candidates(mesh, seed, 0);
  const c = { face: 0, u: 0, v: 0 };
  for (; out.count < out.face.length; out.count++) {
    const i = out.count;
    draw.place(i, c);
    out.face[i] = draw.face(i);
    out.u[i] = c.u;
    out.v[i] = c.v;
    out.key[i] = i;
  }
  return out;
}
