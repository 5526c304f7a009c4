import { solve3 } from '../math/solve';
import type { Vec3 } from '../math/vec3';
import { buildBvh, type Bvh } from './bvh';
import { nearestPlace, noHit } from './bvhQuery';
import { isInside, type Seen } from './crossing';

/** How far meshes reach into each other. */

export interface Depth {
  /** Metres from the deepest corner to the nearest place of what it is in. */
  metres: number;
  at: Vec3;
}

/**
 * The corner of one of two closed meshes that lies deepest in the other.
 * @returns null where no corner of one is in the other: where only sides go through faces there is none
 */
export function depthOf(a: Seen, b: Seen): Depth | null {
  const [one, other] = [deepestIn(a, b), deepestIn(b, a)];
  return !other || (one && one.metres >= other.metres) ? one : other;
}

const hit = noHit();

function deepestIn(from: Seen, into: Seen): Depth | null {
  const { tree, m } = into;
  const size = evenSize(m);
  let deepest: Depth | null = null;
  let whole: Bvh | undefined;
  const p = from.tree.positions;
  for (let o = 0; o < p.length; o += 3) {
    const at = [0, 1, 2].map(
      (r) => from.at[r] + from.m[r * 3] * p[o] + from.m[r * 3 + 1] * p[o + 1] + from.m[r * 3 + 2] * p[o + 2],
    ) as Vec3;
    const own = solve3(m, at[0] - into.at[0], at[1] - into.at[1], at[2] - into.at[2]);
    if (!own.every((v, r) => v > tree.bounds[r] && v < tree.bounds[3 + r])) continue;
    if (!isInside(tree, own[0], own[1], own[2])) continue;
    const metres = size !== null ? nearest(tree, own) * size : nearest((whole ??= inScene(into)), at);
    if (!deepest || metres > deepest.metres) deepest = { metres, at };
  }
  return deepest;
}

/** The factor of a matrix that makes all directions as much larger; null where it does not. */
function evenSize(m: Float64Array): number | null {
  const column = (c: number) => Math.sqrt(m[c] * m[c] + m[3 + c] * m[3 + c] + m[6 + c] * m[6 + c]);
  const [x, y, z] = [column(0), column(1), column(2)];
  return Math.abs(x - y) + Math.abs(y - z) < 1e-12 * (x + y + z) ? x : null;
}

function nearest(tree: Bvh, [x, y, z]: readonly number[]): number {
  nearestPlace(tree, x, y, z, Infinity, hit);
  return hit.t;
}

/** What is larger one way than another has other nearest places in the scene than in its own space: a tree of it there. */
function inScene({ tree, m, at }: Seen): Bvh {
  const { positions: p, indices } = tree;
  const places = new Float64Array(p.length);
  for (let o = 0; o < p.length; o += 3)
    for (let r = 0; r < 3; r++)
      places[o + r] = at[r] + m[r * 3] * p[o] + m[r * 3 + 1] * p[o + 1] + m[r * 3 + 2] * p[o + 2];
  return buildBvh(places, indices);
}
