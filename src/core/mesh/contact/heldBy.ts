import type { Fall, Faller } from './fall';
import type { Hold } from './hold';
import { Overlap } from './overlap';

const turned = new Float64Array(3);
const seen = new Float64Array(9);
const overlap = new Overlap();

/** What held the thing when it was let down last, with the matrix `m`; null where nothing did. */
export function heldBy(fall: Fall, { tree, hull }: Faller, m: ArrayLike<number>): Hold | null {
  if (fall.isByHull) return fall.hullFall.hold(hull!);
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
