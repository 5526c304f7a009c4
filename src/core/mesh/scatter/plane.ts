import { channel, randomBase, randomOf } from '../../math/random';
import type { Amount } from './even';
import { NearGrid } from './nearGrid';
import type { Outline } from './outline';
import { addPoint, chosenPoints, newPoints, type Points } from './points';
import { fitting, roundDistance, rounds } from './rounds';

/**
 * Places inside an outline seen from above. Candidates belong to squares of the ground and not to the outline: where a
 * point of it is moved all else stays as it was.
 */

const X = channel('scatter.plane.x');
const Z = channel('scatter.plane.z');
const TURN = channel('scatter.plane.turn');
const THERE = channel('scatter.plane.there');

/** A square is so many distances of its round wide; each has a number, which comes again after so many squares. */
const WIDE = 4;
const AGAIN = 2048;
/** Candidates of a square are numbered below this. */
const IN_SQUARE = 256;

/** Squares this far from the outline, of their own width, still count: what stands there keeps others away. */
const BESIDE = 2.5;

/** Calls for every candidate of a round in the squares about the outline. @param each so many a square */
function candidatesIn(
  { near, min, max }: Outline,
  seed: number,
  level: number,
  each: number,
  call: (x: number, z: number, key: number) => void,
): void {
  const wide = WIDE * roundDistance(level);
  const own = (seed ^ Math.imul(level + 1, 0x51ed270b)) | 0;
  const [bx, bz] = [randomBase(own, X), randomBase(own, Z)];
  const turned = (i: number) => ((i % AGAIN) + AGAIN) % AGAIN;
  for (let k = Math.floor(min[1] / wide) - 1; (k - 1) * wide <= max[1]; k++)
    for (let i = Math.floor(min[0] / wide) - 1; (i - 1) * wide <= max[0]; i++) {
      if (!near((i + 0.5) * wide, (k + 0.5) * wide, BESIDE * wide)) continue;
      const square = (turned(k) * AGAIN + turned(i)) * IN_SQUARE;
      for (let n = 0; n < each; n++) {
        const key = square + n;
        call((i + randomOf(bx, key)) * wide, (k + randomOf(bz, key)) * wide, key);
      }
    }
}

/** The first so many of a round, in an order of their own that says nothing of where they are. */
function firstOf(points: Points, from: number, most: number, seed: number): Points {
  if (points.count <= most) return points;
  const turn = randomBase(seed, TURN);
  const late = Array.from({ length: points.count - from }, (_, i) => from + i);
  const order = new Map(late.map((i) => [i, randomOf(turn, points.key[i])]));
  late.sort((a, b) => order.get(a)! - order.get(b)!);
  const early = Array.from({ length: from }, (_, i) => i);
  return chosenPoints(points, [...early, ...late.slice(0, most - from)]);
}

/** Those inside an outline, in their order. */
function insideOnly({ inside }: Outline, points: Points): Points {
  const list: number[] = [];
  for (let i = 0; i < points.count; i++)
    if (inside(points.position[i * 3], points.position[i * 3 + 2])) list.push(i);
  return chosenPoints(points, list);
}

/** Places inside by chance, so many: of rounds, each of them twice as dense as the one before, the first ones. */
export function looseIn(outline: Outline, seed: number, count: number): Points {
  let out = newPoints(64);
  if (!(outline.area > 0)) return out;
  const there = randomBase(seed, THERE);
  for (let level = 0; out.count < count; level++) {
    const from = out.count;
    // Twice too many, of which each is there by its own toss: numbers of a square vary as chance has it.
    candidatesIn(outline, seed, level, 2 * WIDE * WIDE, (x, z, key) => {
      if (randomOf(there, key + level) < 0.5 && outline.inside(x, z))
        out = addPoint(out, x, 0, z, key, level);
    });
    out = firstOf(out, from, count, seed);
  }
  return out;
}

/**
 * Places evenly inside, no two nearer than a distance; of a number the first so many of ever closer ones. They are laid
 * beyond the outline too, and cut out by it.
 */
export function evenIn(outline: Outline, seed: number, amount: Amount): Points {
  let all = newPoints(64);
  let out = all;
  const { area } = outline;
  if (!(area > 0)) return out;
  const most = 'number' in amount ? amount.number : Infinity;
  for (const { level, distance, dense } of rounds(area, 2, 'distance' in amount ? amount.distance : null)) {
    const from = out.count;
    const grid = new NearGrid(
      distance,
      all.count + Math.ceil(fitting(area, distance, 2)),
      () => all.position,
    );
    for (let i = 0; i < all.count; i++) grid.add(i);
    const square = (WIDE * roundDistance(level)) / distance;
    const each = Math.min(IN_SQUARE, Math.ceil(dense * square * square));
    candidatesIn(outline, seed, level, each, (x, z, key) => {
      if (grid.near(x, 0, z, distance, () => true)) return;
      all = addPoint(all, x, 0, z, key, level);
      grid.add(all.count - 1);
    });
    out = firstOf(insideOnly(outline, all), from, most, seed);
    if (out.count >= most) return out;
  }
  return out;
}
