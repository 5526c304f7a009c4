import type { Fall, Faller } from './fall';
import { Overlap, type Meeting } from './overlap';

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
    for (let r = 0; r < 3; r++)
      turned[k + r] = m[r * 3] * own[k] + m[r * 3 + 1] * own[k + 1] + m[r * 3 + 2] * own[k + 2];
    for (let r = 0; r < 3; r++)
      seen[k + r] =
        frame[r * 3] * turned[k] + frame[r * 3 + 1] * turned[k + 1] + frame[r * 3 + 2] * turned[k + 2];
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

const overlap = new Overlap();

/** What held the thing when it was let down last, with the matrix `m`; null where nothing did. */
export function heldBy(fall: Fall, { tree }: Faller, m: ArrayLike<number>): Hold | null {
  const { own, ground, face } = fall.touched;
  const { positions: p, indices } = tree;
  const mine = new Float64Array(9);
  const { frame } = fall;
  for (let k = 0; k < 9; k += 3) {
    const o = indices[own * 3 + k / 3] * 3;
    for (let r = 0; r < 3; r++) {
      mine[k + r] = p[o + r];
      turned[r] = m[r * 3] * p[o] + m[r * 3 + 1] * p[o + 1] + m[r * 3 + 2] * p[o + 2];
    }
    for (let r = 0; r < 3; r++)
      seen[k + r] = frame[r * 3] * turned[0] + frame[r * 3 + 1] * turned[1] + frame[r * 3 + 2] * turned[2];
  }
  const theirs = fall.groundFace(ground, face, new Float64Array(9));
  if (overlap.least(seen, 0, theirs, 0) === Infinity) return null;
  const meeting = overlap.meeting();
  if (meeting.kind === 'corner-face')
    return { meeting: meeting.kind, own: corner(mine, meeting.a), ground: theirs };
  if (meeting.kind === 'face-corner')
    return { meeting: meeting.kind, own: mine, ground: corner(theirs, meeting.b) };
  return { meeting: meeting.kind, own: side(mine, meeting.a), ground: side(theirs, meeting.b) };
}

const corner = (t: Float64Array, k: number): Float64Array => t.slice(k * 3, k * 3 + 3);

function side(t: Float64Array, k: number): Float64Array {
  const w = ((k + 1) % 3) * 3;
  return Float64Array.of(t[k * 3], t[k * 3 + 1], t[k * 3 + 2], t[w], t[w + 1], t[w + 2]);
}
