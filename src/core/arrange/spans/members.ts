import { boxOf, type ArrangeContext } from '../context';
import type { Placements } from '../result';
import type { Say } from '../say';
import { swapByHand } from '../steps/byHand';
import { nearNeighbours, neighbours } from '../steps/neighbours';
import { weightedAt } from '../steps/weighted';
import { quatRotate, type Quat } from '../../math/quat';
import { channel, random01 } from '../../math/random';
import { normalize, type Vec3 } from '../../math/vec3';
import type { Posts } from './divisions';
import type { SpanEnd, Spans } from './schema';

/** Which posts members join, where they leave and meet them, and of how many pieces they are. */

const PICK = channel('spans.pick');
/** More members than this are refused rather than freezing anything. */
const MOST = 500_000;

/** The members between posts, from first to last; null where there are too many. */
export function membersOf(
  spans: Spans,
  { placements: posts, parts, unordered }: Posts,
  props: string[],
  context: ArrangeContext,
  say: Say,
): Member[] | null {
  const lengths = props.map((id): [number, number] => {
    const box = boxOf(context, id);
    return box ? [box.min[2], box.max[2]] : [0, 0];
  });
  // Divisions have no snap points.
  const own = (end: SpanEnd): SpanEnd => (spans.divisions ? { ...end, snap: null } : end);
  const ends = { from: endOf(own(spans.from), posts, context), to: endOf(own(spans.to), posts, context) };
  if (ends.from.missing > 0 || ends.to.missing > 0)
    say(
      'span-snap-missing',
      { snap: (ends.from.missing > 0 ? spans.from.snap : spans.to.snap) ?? '' },
      'warning',
    );
  const pairs = unordered ? nearNeighbours(posts, spans, MOST) : neighbours(posts, parts, spans);
  if (!pairs) {
    say('too-many-members', { limit: MOST });
    return null;
  }
  const slots = pairs.map(([a]) => posts.slot[a]);
  const prop = Int32Array.from(slots, (slot) =>
    props.indexOf(weightedAt(spans.props, random01(spans.seed, slot, PICK))),
  );
  swapByHand(spans.hand, slots, prop, props);
  const members: Member[] = [];
  let rows = 0;
  let lost = 0;
  pairs.forEach(([a, b], i) => {
    const from = ends.from.at(a);
    const to = ends.to.at(b);
    const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const apart = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
    const length = apart - 2 * spans.inset;
    if (spans.longest > 0 && apart > spans.longest) return;
    if (!(length > 1e-6)) return void lost++;
    const [low, high] = lengths[prop[i]];
    const long = (high - low) * spans.size;
    const pieces = piecesOf(spans, length, long);
    rows += pieces;
    const front = way.map((v) => v / apart) as Vec3;
    const up = upBetween(posts, a, b, front);
    members.push({ a, b, prop: prop[i], from, to, front, up, length, pieces, low, own: long });
  });
  if (rows > MOST) {
    say('too-many-members', { limit: MOST });
    return null;
  }
  if (lost > 0) say('span-too-short', { count: lost }, 'warning');
  return members;
}

/** A member between two posts, before it is settled. */
export interface Member {
  /** Rows of the posts. */
  a: number;
  b: number;
  prop: number;
  from: Vec3;
  to: Vec3;
  /** Unit, at right angles to each other. */
  front: Vec3;
  up: Vec3;
  /** Metres that it covers. */
  length: number;
  pieces: number;
  /** Of its prop: where it begins along its own front, and how long it is at the size of the spans. */
  low: number;
  own: number;
}

/** Where members leave (or meet) a post, by its row. */
function endOf(end: SpanEnd, posts: Placements, context: ArrangeContext) {
  let missing = 0;
  const base = posts.props.map((id): Vec3 => {
    if (end.snap === null) return [0, 0, 0];
    const facts = context.prop(id);
    const point = facts?.state === 'ready' ? facts.snapPoints?.find((p) => p.name === end.snap) : undefined;
    if (!point) missing++;
    return point?.position ?? [0, 0, 0];
  });
  const at = (row: number): Vec3 => {
    const [x, y, z] = base[posts.prop[row]];
    const s = posts.scale.subarray(row * 3, row * 3 + 3);
    const { offset } = end;
    const q = [...posts.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
    const v = quatRotate(q, [(x + offset[0]) * s[0], (y + offset[1]) * s[1], (z + offset[2]) * s[2]]);
    return [
      posts.position[row * 3] + v[0],
      posts.position[row * 3 + 1] + v[1],
      posts.position[row * 3 + 2] + v[2],
    ];
  };
  return { missing, at };
}

/** How many pieces a member is of. */
function piecesOf({ fit }: Spans, length: number, own: number): number {
  if (!(own > 1e-6) || fit === 'stretch' || fit === 'trim') return 1;
  return fit === 'repeat'
    ? Math.max(1, Math.round(length / own))
    : Math.max(1, Math.ceil(length / own - 1e-6));
}

/** Up of a member: between those of its posts, square to its length. */
export function upBetween(posts: Placements, a: number, b: number, front: Vec3): Vec3 {
  const upOf = (row: number) =>
    quatRotate([...posts.rotation.subarray(row * 4, row * 4 + 4)] as Quat, [0, 1, 0]);
  const [p, q] = [upOf(a), upOf(b)];
  const sum: Vec3 = [p[0] + q[0], p[1] + q[1], p[2] + q[2]];
  const along = sum[0] * front[0] + sum[1] * front[1] + sum[2] * front[2];
  const flat: Vec3 = [sum[0] - front[0] * along, sum[1] - front[1] * along, sum[2] - front[2] * along];
  const other: Vec3 = Math.abs(front[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1];
  const k = other[0] * front[0] + other[1] * front[1] + other[2] * front[2];
  const spare = normalize([other[0] - front[0] * k, other[1] - front[1] * k, other[2] - front[2] * k]);
  return Math.sqrt(flat[0] * flat[0] + flat[1] * flat[1] + flat[2] * flat[2]) > 1e-6
    ? normalize(flat, spare)
    : spare;
}
