import type { Fall, Faller } from './fall';
import type { Holds } from './holds';
import { Overlap } from './overlap';

const turned = new Float64Array(3);
const mine = new Float64Array(9);
const seen = new Float64Array(9);
const theirs = new Float64Array(9);
const overlap = new Overlap();

/**
 * Takes up what held the thing when it was let down last, with the matrix `m`, and what nearly did where that is known.
 * @returns false where nothing did
 */
export function heldBy(fall: Fall, { tree, hull }: Faller, m: ArrayLike<number>, holds: Holds): boolean {
  if (fall.isByHull) {
    fall.hullFall.list(hull!, holds);
    return true;
  }
  const { own, ground, face } = fall.touched;
  const { positions: p, indices } = tree;
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
  fall.groundFace(ground, face, theirs);
  if (overlap.least(seen, 0, theirs, 0) === Infinity) return false;
  const meeting = overlap.meeting();
  if (meeting.kind === 'corner-face') holds.add(meeting.kind, corner(mine, meeting.a), theirs, 0, NaN);
  else if (meeting.kind === 'face-corner') holds.add(meeting.kind, mine, corner(theirs, meeting.b), 0, NaN);
  else holds.add(meeting.kind, side(mine, meeting.a), side(theirs, meeting.b), 0, NaN);
  return true;
}

const corner = (t: Float64Array, k: number): Float64Array => t.subarray(k * 3, k * 3 + 3);

function side(t: Float64Array, k: number): Float64Array {
  const w = ((k + 1) % 3) * 3;
  return Float64Array.of(t[k * 3], t[k * 3 + 1], t[k * 3 + 2], t[w], t[w + 1], t[w + 2]);
}
