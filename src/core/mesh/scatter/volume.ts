import { channel, randomBase, randomOf } from '../../math/random';
import type { Vec3 } from '../../math/vec3';
import type { Bvh } from '../bvh';
import { windingAt } from '../crossing';
import type { Triangles } from '../lines/topology';
import type { Bounds } from '../mesh';
import type { Amount } from './even';
import { NearGrid } from './nearGrid';
import { addPoint, newPoints, type Points } from './points';
import { fitting, rounds } from './rounds';

const AXES = ['x', 'y', 'z'].map((a) => channel(`scatter.${a}`));

/** Cubic metres inside a closed mesh, negative where its faces look inward: the sum of pyramids over its faces. */
export function volumeOf({ positions: p, indices }: Triangles): number {
  let six = 0;
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
    six +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return six / 6;
}

/** A candidate of a round: a place of the box about the mesh, fixed by seed, round and number alone. */
function inBox({ min, max }: Bounds, seed: number, level: number): (n: number, out: Vec3) => void {
  const own = (seed ^ Math.imul(level + 1, 0x51ed270b)) | 0;
  const bases = AXES.map((axis) => randomBase(own, axis));
  return (n, out) => {
    for (let a = 0; a < 3; a++) out[a] = min[a] + (max[a] - min[a]) * randomOf(bases[a], n);
  };
}

const boxVolume = ({ min, max }: Bounds): number => (max[0] - min[0]) * (max[1] - min[1]) * (max[2] - min[2]);

/** Of so many candidates without one that is inside none is: the mesh has no room. */
const IN_VAIN = 20_000;

/** The first so many places inside a mesh (its winding number is not 0) that come by chance. */
export function looseInside(tree: Bvh, bounds: Bounds, seed: number, count: number): Points {
  let out = newPoints(count);
  const draw = inBox(bounds, seed, 0);
  const at: Vec3 = [0, 0, 0];
  for (let n = 0, vain = 0; out.count < count && vain < IN_VAIN; n++, vain++) {
    draw(n, at);
    if (windingAt(tree, ...at) === 0) continue;
    out = addPoint(out, at[0], at[1], at[2], n, 0);
    vain = -1;
  }
  return out;
}

/** Places evenly inside a mesh, no two nearer than a distance; of a number the first so many of ever closer ones. */
export function evenInside(tree: Bvh, bounds: Bounds, seed: number, amount: Amount): Points {
  const size = boxVolume(bounds);
  const most = 'number' in amount ? amount.number : Infinity;
  let out = newPoints(64);
  if (!(size > 0)) return out;
  const at: Vec3 = [0, 0, 0];
  let vain = 0;
  for (const round of rounds(size, 3, 'distance' in amount ? amount.distance : null)) {
    const draw = inBox(bounds, seed, round.level);
    const room = Math.ceil(Math.min(most, fitting(size, round.distance, 3))) + out.count;
    const grid = new NearGrid(round.distance, room, () => out.position);
    for (let i = 0; i < out.count; i++) grid.add(i);
    for (let n = 0; n < round.throws; n++) {
      draw(n, at);
      if (grid.near(at[0], at[1], at[2], round.distance, () => true)) continue;
      if (++vain > IN_VAIN) return out;
      if (windingAt(tree, ...at) === 0) continue;
      vain = 0;
      out = addPoint(out, at[0], at[1], at[2], n, round.level);
      grid.add(out.count - 1);
      if (out.count >= most) return out;
    }
  }
  return out;
}
