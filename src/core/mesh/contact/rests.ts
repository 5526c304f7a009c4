import type { Vec3 } from '../../math/vec3';
import type { Bvh } from '../bvh';
import { Fall, fallerOf } from './fall';
import { planeUnder } from './planeUnder';
import { restingNormal } from './rest';
import { Tilt } from './tilt';

/** Something that comes to rest: its triangles in its own space, metres from the foot, and the outline of its base. */
export interface Thing {
  tree: Bvh;
  base: readonly Vec3[];
  /** The furthest that any of it is from its foot. */
  reach: number;
}

/** Where one thing is to come to rest. */
export interface Resting {
  /** Rows of the 3 × 3 matrix from its own space to the scene, about its foot. */
  m: ArrayLike<number>;
  /** The greatest of its sizes. */
  size: number;
  /** Its foot stays on the line through `at` along `d`, unit. */
  at: Vec3;
  d: Vec3;
  /** Unit, its up as it is posed by `m`. */
  up: Vec3;
  /** Unit, of the ground about there. */
  slope: Vec3;
}

/**
 * Many things that come to rest on the same grounds, each by itself: numbers alone, so that others may do some of the
 * rows. See {@link GIVEN} and {@link FOUND} for what a row is.
 */
export interface RestJob {
  grounds: readonly Bvh[];
  things: readonly Thing[];
  /** Whether they tilt until they rest; else they are let down as they stand. */
  tilts: boolean;
  rows: number;
  given: Float64Array;
  found: Float64Array;
}

/** Numbers a row: which thing, its size, at, d, up, slope, m. */
export const GIVEN = 23;
/** Numbers a row: the normal, where it tilts; then a pose that was asked for last (m) and the room that it has. */
export const FOUND = 13;

const tilt = new Tilt();

/**
 * The normal that the up of a thing becomes where it rests on what is under it.
 * @param anew whether the search begins from the plane through the ground under the corners of the base; else from `up`
 */
export function normalAtRest(
  fall: Fall,
  { tree, base, reach }: Thing,
  { m, size, at, d, up, slope }: Resting,
  anew: boolean,
): Vec3 {
  const faller = fallerOf(tree);
  fall.from(at, d, slope);
  tilt.of({ m, up }, fall.frame);
  if (!anew) return restingNormal(fall, faller, tilt, up);
  tilt.to(slope);
  const plane = planeUnder(fall, faller, tilt.m, base, reach * size);
  return restingNormal(fall, faller, tilt, plane ?? slope);
}

/** Adds a row to a list of {@link GIVEN} numbers each. */
export function giveRow(given: number[], thing: number, { m, size, at, d, up, slope }: Resting): void {
  given.push(thing, size, ...at, ...d, ...up, ...slope);
  for (let k = 0; k < 9; k++) given.push(m[k]);
}

/** Does rows of a job, in whatever order, and any of them again: each comes out the same to the last bit. */
export class Rester {
  private fall: Fall;

  constructor(private job: RestJob) {
    this.fall = new Fall(job.grounds);
  }

  rest(row: number): void {
    const { given, found, things, tilts } = this.job;
    const o = row * GIVEN;
    const vec = (k: number): Vec3 => [given[o + k], given[o + k + 1], given[o + k + 2]];
    // What the row before has gathered is not this one's, even where both stand in one place.
    this.fall.forget();
    const resting = {
      m: given.subarray(o + 14, o + GIVEN),
      size: given[o + 1],
      at: vec(2),
      d: vec(5),
      up: vec(8),
      slope: vec(11),
    };
    const w = row * FOUND;
    const thing = things[given[o]];
    const { fall } = this;
    if (tilts) found.set(normalAtRest(fall, thing, resting, true), w);
    else {
      fall.from(resting.at, resting.d, resting.slope);
      fall.room(fallerOf(thing.tree), resting.m);
    }
    found.set(fall.known.m, w + 3);
    found[w + 12] = fall.known.room;
  }
}

/** Does all rows of a job. */
export function restAll(job: RestJob): void {
  const rester = new Rester(job);
  for (let row = 0; row < job.rows; row++) rester.rest(row);
}
