import {
  allocatePlacements,
  NO_FACTS,
  STATE,
  type Finding,
  type PartRange,
  type Placements,
  type ArrangementResult,
} from '../result';
import { DEG, quatRotate, writeQuatFromUpFront, type Quat } from '../../math/quat';
import { channel, random01 } from '../../math/random';
import { normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { acos } from '../../math/portable';
import { clipAlong } from '../../mesh/clip';
import type { Bounds } from '../../mesh/mesh';
import { boxOf, type ArrangeContext } from '../context';
import { ONE_TIME, type Slices } from '../fineness';
import { boundsOf, sayInto } from '../say';
import { slotName, slotParts } from '../slotId';
import { weightedAt, weightedProps } from '../steps/weighted';
import { cutMember, followMember, seenFromPath, Shapes, type Follow } from './shape';
import type { SpanEnd, Spans } from './schema';

const PICK = channel('spans.pick');
/** More members than this are refused rather than freezing anything. */
const MOST = 500_000;

/** Works spans out: one row a member (or a piece of one), with the slot id of the post that it leaves from. */
export function evaluateSpans(spans: Spans, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, spans.id);
  const posts = context.arrangement?.(spans.on);
  const props = weightedProps(spans.props, context, say);
  if (!posts) say('leader-missing', {});
  if (!posts || !props)
    return { placements: allocatePlacements(0, []), findings, facts: NO_FACTS, parts: [] };
  const bounds = props.map((id) => boxOf(context, id) ?? null);
  const members: Member[] = [];
  let rows = 0;
  let lost = 0;
  const ends = { from: endOf(spans.from, posts, context), to: endOf(spans.to, posts, context) };
  if (ends.from.missing > 0 || ends.to.missing > 0)
    say(
      'span-snap-missing',
      { snap: (ends.from.missing > 0 ? spans.from.snap : spans.to.snap) ?? '' },
      'warning',
    );
  for (const [a, b] of pairsOf(posts, context.parts?.(spans.on) ?? [], spans)) {
    const prop = props.indexOf(weightedAt(spans.props, random01(spans.seed, posts.slot[a], PICK)));
    const from = ends.from.at(a);
    const to = ends.to.at(b);
    const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const apart = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
    const length = apart - 2 * spans.inset;
    if (spans.longest > 0 && apart > spans.longest) continue;
    if (!(length > 1e-6)) {
      lost++;
      continue;
    }
    const own = bounds[prop] ? bounds[prop].max[2] - bounds[prop].min[2] : 0;
    const pieces = piecesOf(spans, length, own * spans.size);
    rows += pieces;
    if (rows > MOST) {
      say('too-many-members', { limit: MOST });
      return { placements: allocatePlacements(0, props), findings, facts: NO_FACTS, parts: [] };
    }
    members.push({ a, b, prop, from, to, front: way.map((v) => v / apart) as Vec3, length, pieces });
  }
  if (lost > 0) say('span-too-short', { count: lost }, 'warning');
  const joints = spans.corner ? jointsOf(members, spans.corner.angleDeg * DEG) : [];
  const pieceProp = spans.corner ? props.indexOf(spans.corner.prop) : -1;
  if (spans.corner && pieceProp < 0) {
    props.push(spans.corner.prop);
    boundsOf([spans.corner.prop], context, say);
  }
  const out = allocatePlacements(rows + joints.length, props);
  let row = 0;
  const without = new Set(spans.without);
  const shaper: Shaper = {
    shapes: new Shapes(out),
    slices: context.fine?.of(spans.id) ?? ONE_TIME,
    context,
    parts: context.parts?.(spans.on) ?? [],
  };
  for (const m of members) {
    const from = row;
    row = lay(m, spans, posts, bounds[m.prop], out, row, shaper);
    if (without.has(slotName(posts.slot[m.a]))) out.state.fill(STATE.hand, from, row);
  }
  for (const joint of joints)
    layJoint(joint, spans, posts, pieceProp < 0 ? props.length - 1 : pieceProp, out, row++);
  return { placements: out, findings, facts: NO_FACTS, parts: [] };
}

interface Member {
  /** Rows of the posts. */
  a: number;
  b: number;
  prop: number;
  from: Vec3;
  to: Vec3;
  front: Vec3;
  length: number;
  pieces: number;
}

/** Pairs of posts between which there is a member, row numbers; a gap in between has none. */
function pairsOf(posts: Placements, parts: PartRange[], spans: Spans): [number, number][] {
  const lanes = new Map<string, number[]>();
  for (let i = 0; i < posts.count; i++) {
    // What the pulley took off an end leaves no hole.
    if (posts.state[i] === STATE.pastEnd) continue;
    const { part, stroke, row } = slotParts(posts.slot[i]);
    const key = parts.length > 0 ? `${part} ${stroke} ${row}` : '';
    const lane = lanes.get(key);
    if (lane) lane.push(i);
    else lanes.set(key, [i]);
  }
  const out: [number, number][] = [];
  for (const whole of lanes.values()) {
    const { part, stroke } = slotParts(posts.slot[whole[0]]);
    const range = parts.find((p) => p.part === part && p.stroke === stroke);
    // The order along the path; pegs stand in their own.
    const lane = range ? withoutClosed(posts, whole) : whole;
    if (range) lane.sort((i, j) => posts.s[i] - posts.s[j]);
    const n = lane.length;
    const around = range ? goesRound(posts, lane, range) : false;
    for (let k = 0; k < n; k += spans.every) {
      if (!around && k + spans.reach >= n) break;
      const steps = Array.from({ length: spans.reach + 1 }, (_, d) => lane[(k + d) % n]);
      // With two posts round a loop there and back are the same way.
      if (steps[0] === steps[spans.reach] || steps.some((i) => posts.state[i] !== STATE.placed)) continue;
      out.push([steps[0], steps[spans.reach]]);
    }
  }
  return out;
}

/** Without the gaps that others have closed up over: those stand where they were. */
function withoutClosed(posts: Placements, lane: number[]): number[] {
  const stood = new Set(lane.filter((i) => posts.state[i] === STATE.placed).map((i) => posts.s[i]));
  return lane.filter((i) => posts.state[i] === STATE.placed || !stood.has(posts.s[i]));
}

/** Whether the last post of a loop is a neighbour of the first: no further on than the others are from each other. */
function goesRound(posts: Placements, lane: number[], range: PartRange): boolean {
  if (!range.closed || lane.length < 3) return false;
  const gaps = lane.slice(1).map((i, k) => posts.s[i] - posts.s[lane[k]]);
  const over = range.length - (posts.s[lane[lane.length - 1]] - posts.s[lane[0]]);
  return over <= 1.75 * gaps.sort((a, b) => a - b)[gaps.length >> 1];
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

/** What shapes of their own are made from. */
interface Shaper {
  slices: Slices;
  shapes: Shapes;
  context: ArrangeContext;
  parts: PartRange[];
}

/** Where the k-th piece of a member begins, metres from its first, and how long it is. */
function pieceAt(m: Member, { fit }: Spans, own: number, k: number): [from: number, length: number] {
  if (fit === 'cut' && own > 1e-6) return [own * k, Math.min(own, m.length - own * k)];
  if (fit === 'trim' && own > 1e-6) {
    const length = Math.min(own, m.length);
    return [(m.length - length) / 2, length];
  }
  return [(m.length / m.pieces) * k, m.length / m.pieces];
}

/** Writes the pieces of one member from row `row` on. @returns the row after them */
function lay(
  m: Member,
  spans: Spans,
  posts: Placements,
  bounds: Bounds | null,
  out: Placements,
  row: number,
  shaper: Shaper,
): number {
  const [low, high] = bounds ? [bounds.min[2], bounds.max[2]] : [0, 0];
  const own = (high - low) * spans.size;
  let up = upBetween(posts, m);
  if (spans.rollDeg !== 0) up = rotateAbout(up, m.front, spans.rollDeg * DEG);
  const facts = shaper.context.prop(out.props[m.prop]);
  const mesh = facts?.state === 'ready' ? facts.mesh?.() : undefined;
  const way = spans.follow ? followed(m, spans, posts, shaper) : null;
  for (let k = 0; k < m.pieces; k++, row++) {
    const [from, length] = pieceAt(m, spans, own, k);
    // Whole pieces keep their length where they are cut; others are as long as they have to be.
    const cut = (spans.fit === 'cut' || spans.fit === 'trim') && own > 1e-6;
    const long = cut ? spans.size : own > 1e-6 ? (length / own) * spans.size : 1;
    const back = spans.inset + from - low * long;
    out.slot[row] = posts.slot[m.a];
    out.s[row] = posts.s[m.a];
    out.prop[row] = m.prop;
    for (let a = 0; a < 3; a++) out.position[row * 3 + a] = m.from[a] + m.front[a] * back;
    writeQuatFromUpFront(out.rotation, row * 4, up[0], up[1], up[2], m.front[0], m.front[1], m.front[2]);
    out.scale[row * 3] = spans.size;
    out.scale[row * 3 + 1] = spans.size;
    out.scale[row * 3 + 2] = long;
    if (!mesh) continue;
    const short = cut && length < own - 1e-9 * own;
    if (way) {
      const position = [...out.position.subarray(row * 3, row * 3 + 3)] as Vec3;
      const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
      const at = (t: number) => way.from + (way.to - way.from) * t;
      const share = (x: number) => (x + spans.inset) / (m.length + 2 * spans.inset);
      const mix = ([a, b]: [number, number], t: number) => a + (b - a) * t;
      const [t0, t1] = [share(from), share(from + length)];
      const part: Follow = {
        path: way.path,
        from: at(t0),
        to: at(t1),
        side: [mix(way.side, t0), mix(way.side, t1)],
        lift: [mix(way.lift, t0), mix(way.lift, t1)],
      };
      const clipped = short ? clipAlong(mesh, 2, low - 1, low + length / spans.size) : mesh;
      const range: [number, number] = [low, short ? low + length / spans.size : high];
      shaper.shapes.put(row, `${row}`, () =>
        followMember(clipped, range, part, spans.size, spans.rollDeg * DEG, position, q, (pieces) =>
          shaper.slices.most(out.slot[row], `${k}`, pieces),
        ),
      );
    } else if (short)
      shaper.shapes.put(row, `${m.prop} ${length.toFixed(6)}`, () =>
        cutMember(mesh, low, length, spans.size),
      );
  }
  return row;
}

/** The way of a member along the path that its posts stand on; null where they stand on none, or it is straight. */
function followed(m: Member, spans: Spans, posts: Placements, { context, parts }: Shaper): Follow | null {
  const { part, stroke } = slotParts(posts.slot[m.a]);
  const range = parts.find((p) => p.part === part && p.stroke === stroke);
  const compiled = range && context.path(range.path);
  const path = compiled?.ok ? compiled.strokes[stroke] : undefined;
  if (!range || !path) return null;
  const [side, lift, along] = seenFromPath(path, posts.s[m.a], m.from);
  const [side2, lift2, along2] = seenFromPath(path, posts.s[m.b], m.to);
  const from = posts.s[m.a] + along;
  let to = posts.s[m.b] + along2;
  // Over the seam of a loop it goes on round.
  if (path.closed && to <= from) to += path.length;
  return to - from > 1e-6 ? { path, from, to, side: [side, side2], lift: [lift, lift2] } : null;
}

/** Two members that meet at a post at an angle. */
interface Joint {
  before: Member;
  after: Member;
}

function jointsOf(members: Member[], least: number): Joint[] {
  const leaving = new Map(members.map((m) => [m.a, m]));
  return members.flatMap((before) => {
    const after = leaving.get(before.b);
    if (!after) return [];
    const c = before.front.reduce((sum, v, a) => sum + v * after.front[a], 0);
    return acos(Math.max(-1, Math.min(1, c))) >= least ? [{ before, after }] : [];
  });
}

/** Puts a corner piece where two members meet, facing between both. */
function layJoint(
  { before, after }: Joint,
  spans: Spans,
  posts: Placements,
  prop: number,
  out: Placements,
  row: number,
): void {
  const front = normalize(before.front.map((v, a) => v + after.front[a]) as Vec3, after.front);
  const up = upBetween(posts, { ...after, front });
  out.slot[row] = posts.slot[after.a];
  out.s[row] = posts.s[after.a];
  out.prop[row] = prop;
  out.position.set(after.from, row * 3);
  writeQuatFromUpFront(out.rotation, row * 4, up[0], up[1], up[2], front[0], front[1], front[2]);
  out.scale.fill(spans.size, row * 3, row * 3 + 3);
}

/** Up of a member: between those of its posts, square to its length. */
function upBetween(posts: Placements, { a, b, front }: Member): Vec3 {
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
