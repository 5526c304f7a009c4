import type { Triangles } from '../lines/topology';
import { areasOf } from './areas';
import type { Bvh } from '../bvh';
import { Joined } from './joined';
import { NearGrid } from './nearGrid';
import { fitting, rounds } from './rounds';
import { candidates, newSpots, roomier, type Candidates, type Spots } from './spots';

/** Rounds that look over folds: of distances below so many times the least one, or in which more than a share of a number fits. */
const LAST = 1.05;
const FEW = 2;

/** What is asked for: a least distance, metres, or a number. */
export type Amount = { distance: number } | { number: number };

/**
 * Places evenly over a mesh: no two nearer than a distance in a straight line among those joined over faces near by,
 * and no gap in which another would fit. Of a number the first so many of ever closer ones.
 */
export function evenSpots(mesh: Triangles & { tree(): Bvh }, seed: number, amount: Amount): Spots {
  const { total } = areasOf(mesh);
  const distance = 'distance' in amount ? amount.distance : null;
  const most = 'number' in amount ? amount.number : Infinity;
  let spots = newSpots(1024);
  if (!(total > 0) || most === 0) return spots;
  let position = new Float64Array(1024 * 3);
  const { positions: p, indices } = mesh;
  let joined: Joined | null = null;
  const c = { face: 0, u: 0, v: 0 };
  let [x, y, z] = [0, 0, 0];
  const stands = (i: number): boolean => !joined || joined.joins(c.face, x, y, z, spots.face[i]);
  for (const round of rounds(total, 2, distance)) {
    // In the first rounds it does no harm where a fold keeps some away: the last ones fill in there.
    const late =
      distance !== null ? round.distance < distance * LAST : fitting(total, round.distance, 2) > most / FEW;
    joined = late ? new Joined(mesh, round.distance) : null;
    const draw = candidates(mesh, seed, round.level);
    const grid = new NearGrid(
      round.distance,
      Math.ceil(Math.min(most, fitting(total, round.distance, 2) * 1.1)) + spots.count,
      () => position,
    );
    for (let i = 0; i < spots.count; i++) grid.add(i);
    // Of a number the first ones are to be anywhere; else they come face by face, which is much quicker.
    const order = most === Infinity ? byFace(draw, round.throws, indices.length / 3) : null;
    for (let k = 0; k < round.throws; k++) {
      const n = order ? order[k] : k;
      c.face = draw.face(n);
      draw.place(n, c);
      const [a, b, d] = [indices[c.face * 3] * 3, indices[c.face * 3 + 1] * 3, indices[c.face * 3 + 2] * 3];
      const w = 1 - c.u - c.v;
      x = p[a] * w + p[b] * c.u + p[d] * c.v;
      y = p[a + 1] * w + p[b + 1] * c.u + p[d + 1] * c.v;
      z = p[a + 2] * w + p[b + 2] * c.u + p[d + 2] * c.v;
      if (grid.near(x, y, z, round.distance, stands)) continue;
      const i = spots.count++;
      if (i === spots.face.length) {
        spots = roomier({ ...spots }, i * 2);
        const more = new Float64Array(i * 6);
        more.set(position);
        position = more;
        spots.count = i + 1;
      }
      spots.face[i] = c.face;
      spots.u[i] = c.u;
      spots.v[i] = c.v;
      spots.key[i] = n;
      spots.level[i] = round.level;
      position[i * 3] = x;
      position[i * 3 + 1] = y;
      position[i * 3 + 2] = z;
      grid.add(i);
      if (spots.count >= most) return spots;
    }
  }
  return spots;
}

/** The numbers of candidates, those of one face behind each other. */
function byFace(draw: Candidates, count: number, faces: number): Uint32Array {
  const face = new Uint32Array(count);
  const start = new Uint32Array(faces + 1);
  for (let n = 0; n < count; n++) start[(face[n] = draw.face(n)) + 1]++;
  for (let f = 0; f < faces; f++) start[f + 1] += start[f];
  const order = new Uint32Array(count);
  for (let n = 0; n < count; n++) order[start[face[n]]++] = n;
  return order;
}
