import type { Meeting } from './overlap';

/**
 * Something that holds a thing: the room that it leaves, as if its faces and sides went on without an end. What is of
 * the thing is in its own space, what is of the ground in the frame of the fall.
 */
export interface Hold {
  meeting: Meeting['kind'];
  own: Float64Array;
  ground: Float64Array;
}

/** What a hold says of a pose, written over by the next {@link ask}. */
export const said = {
  /** NaN where it holds nothing. */
  room: 0,
  /** Where the thing is met, metres from the foot along the axes of the scene. */
  place: new Float64Array(3),
  /** How the room changes when that place moves along the axes of the scene. */
  slope: new Float64Array(3),
  /** Whether what it is made of really meets there, and not only what would without an end. */
  reaches: false,
};

/** So far beside its end (as a share) a side or a face still counts as met. */
const BESIDE = 1e-7;

const turned = new Float64Array(9);
const seen = new Float64Array(9);
/** Shares along two lines where they cross. */
const shares = new Float64Array(2);

/** @param m rows of the matrix from the thing's own space to the scene, about its foot @param frame of the fall */
export function ask({ meeting, own, ground }: Hold, m: ArrayLike<number>, frame: Float64Array): void {
  for (let k = 0; k < own.length; k += 3) {
    turn(m, own[k], own[k + 1], own[k + 2], turned, k);
    turn(frame, turned[k], turned[k + 1], turned[k + 2], seen, k);
  }
  if (meeting === 'corner-face') {
    plane(ground);
    const height = over(ground, seen[0], seen[1]);
    said.room = seen[2] - height;
    said.reaches = isWithin();
    for (let a = 0; a < 3; a++) said.place[a] = turned[a];
  } else if (meeting === 'face-corner') {
    plane(seen);
    const height = over(seen, ground[0], ground[1]);
    said.room = height - ground[2];
    said.reaches = isWithin();
    for (let a = 0; a < 3; a++)
      said.place[a] =
        turned[a] + (turned[3 + a] - turned[a]) * shares[0] + (turned[6 + a] - turned[a]) * shares[1];
  } else {
    const ux = seen[3] - seen[0];
    const uy = seen[4] - seen[1];
    const uh = seen[5] - seen[2];
    const vx = ground[3] - ground[0];
    const vy = ground[4] - ground[1];
    const vh = ground[5] - ground[2];
    cross(ux, uy, vx, vy, ground[0] - seen[0], ground[1] - seen[1]);
    const s = shares[0];
    const t = shares[1];
    said.room = seen[2] + uh * s - ground[2] - vh * t;
    said.reaches = Math.max(-s, s - 1, -t, t - 1) < BESIDE;
    // Both sides lie in the plane that they touch in.
    const det = ux * vy - uy * vx;
    steep[0] = (uh * vy - uy * vh) / det;
    steep[1] = (ux * vh - uh * vx) / det;
    for (let a = 0; a < 3; a++) said.place[a] = turned[a] + (turned[3 + a] - turned[a]) * s;
  }
  for (let a = 0; a < 3; a++) said.slope[a] = frame[6 + a] - steep[0] * frame[a] - steep[1] * frame[3 + a];
}

function turn(m: ArrayLike<number>, x: number, y: number, z: number, out: Float64Array, w: number): void {
  out[w] = m[0] * x + m[1] * y + m[2] * z;
  out[w + 1] = m[3] * x + m[4] * y + m[5] * z;
  out[w + 2] = m[6] * x + m[7] * y + m[8] * z;
}

/** How a plane rises along x and y. */
const steep = new Float64Array(2);

function plane(t: Float64Array): void {
  const ux = t[3] - t[0];
  const uy = t[4] - t[1];
  const vx = t[6] - t[0];
  const vy = t[7] - t[1];
  const det = ux * vy - uy * vx;
  steep[0] = ((t[5] - t[2]) * vy - uy * (t[8] - t[2])) / det;
  steep[1] = (ux * (t[8] - t[2]) - (t[5] - t[2]) * vx) / det;
}

/** Height of a triangle's plane over (x, y); the shares of its second and third corner stand in `shares`. */
function over(t: Float64Array, x: number, y: number): number {
  cross(t[3] - t[0], t[4] - t[1], t[0] - t[6], t[1] - t[7], x - t[0], y - t[1]);
  return t[2] + (t[5] - t[2]) * shares[0] + (t[8] - t[2]) * shares[1];
}

const isWithin = (): boolean => Math.min(shares[0], shares[1], 1 - shares[0] - shares[1]) > -BESIDE;

/** Where s·u and d + t·v cross: NaN where they run alike. */
function cross(ux: number, uy: number, vx: number, vy: number, dx: number, dy: number): void {
  const det = ux * vy - uy * vx;
  const runsAlike = !(Math.abs(det) > 1e-12 * (ux * ux + uy * uy + vx * vx + vy * vy));
  shares[0] = runsAlike ? NaN : (dx * vy - dy * vx) / det;
  shares[1] = runsAlike ? NaN : (dx * uy - dy * ux) / det;
}
