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
import { addScaled, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { carriedLength } from '../../curve/laid';
import { acos } from '../../math/portable';
import { clipAlong } from '../../mesh/clip';
import { boxOf, type ArrangeContext } from '../context';
import { ONE_TIME, type Slices } from '../fineness';
import { boundsOf, sayInto, type Say } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import type { Sites } from '../sites';
import { slotName, slotParts } from '../slotId';
import { propsByHand, swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround } from '../steps/keepOuts';
import { weightedAt, weightedProps } from '../steps/weighted';
import { cutMember, followMember, seenFromPath, Shapes, type Follow } from './shape';
import type { SpanEnd, Spans } from './schema';

const PICK = channel('spans.pick');
/** More members than this are refused rather than freezing anything. */
const MOST = 500_000;

/**
 * Works spans out: one row a member (or a piece of one), with the slot id of the post that it leaves from. Members are
 * settled like what stands anywhere; their pieces and what joins them are laid on what came out.
 */
export function evaluateSpans(spans: Spans, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, spans.id);
  const nothing = (props: string[]): ArrangementResult => ({
    placements: allocatePlacements(0, props),
    findings,
    facts: NO_FACTS,
    parts: [],
  });
  const posts = context.arrangement?.(spans.on);
  const drawn = weightedProps(spans.props, context, say);
  if (!posts) say('leader-missing', {});
  if (!posts || !drawn) return nothing([]);
  const others = [...propsByHand(spans.hand), ...(spans.corner ? [spans.corner.prop] : [])];
  const props = [...new Set([...drawn, ...others])];
  boundsOf(props.slice(drawn.length), context, say);
  const members = membersOf(spans, posts, props, context, say);
  if (!members) return nothing(props);
  const around = keepOutsAround(spans.gaps.keepOuts, context, (kind, detail) => say(kind, detail, 'warning'));
  const { placements: settled } = settle(
    {
      ...spans,
      posing: { ...AS_IT_LIES, rollDeg: spans.rollDeg, size: spans.size },
      gaps: wholeGaps(spans.gaps),
    },
    [sitesOf(members, spans, posts, around)],
    { ids: props, bounds: [] },
    context,
    say,
  );
  const joints = spans.corner ? jointsOf(members, settled, spans.corner.angleDeg * DEG) : [];
  const out = allocatePlacements(
    members.reduce((sum, m) => sum + m.pieces, joints.length),
    props,
  );
  const shaper: Shaper = {
    shapes: new Shapes(out),
    slices: context.fine?.of(spans.id) ?? ONE_TIME,
    context,
    parts: context.parts?.(spans.on) ?? [],
  };
  let row = 0;
  members.forEach((m, i) => {
    row = lay(m, i, settled, spans, posts, out, row, shaper);
  });
  for (const joint of joints) layJoint(joint, spans, posts, props.indexOf(spans.corner!.prop), out, row++);
  return { placements: out, findings, facts: NO_FACTS, parts: [] };
}

/** The members between posts, from first to last; null where there are too many. */
function membersOf(
  spans: Spans,
  posts: Placements,
  props: string[],
  context: ArrangeContext,
  say: Say,
): Member[] | null {
  const lengths = props.map((id): [number, number] => {
    const box = boxOf(context, id);
    return box ? [box.min[2], box.max[2]] : [0, 0];
  });
  const ends = { from: endOf(spans.from, posts, context), to: endOf(spans.to, posts, context) };
  if (ends.from.missing > 0 || ends.to.missing > 0)
    say(
      'span-snap-missing',
      { snap: (ends.from.missing > 0 ? spans.from.snap : spans.to.snap) ?? '' },
      'warning',
    );
  const pairs = pairsOf(posts, context.parts?.(spans.on) ?? [], spans);
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
    const own = (high - low) * spans.size;
    const pieces = piecesOf(spans, length, own);
    rows += pieces;
    const front = way.map((v) => v / apart) as Vec3;
    const up = upBetween(posts, a, b, front);
    members.push({ a, b, prop: prop[i], from, to, front, up, length, pieces, low, own });
  });
  if (rows > MOST) {
    say('too-many-members', { limit: MOST });
    return null;
  }
  if (lost > 0) say('span-too-short', { count: lost }, 'warning');
  return members;
}

/** Members as sites: each stands where its first piece does. Kept out is one whose middle is. */
function sitesOf(
  members: Member[],
  spans: Spans,
  posts: Placements,
  around: ((at: Vec3) => boolean)[],
): Sites {
  const n = members.length;
  const sites = {
    slot: Float64Array.from(members, (m) => posts.slot[m.a]),
    prop: Int32Array.from(members, (m) => m.prop),
    s: Float64Array.from(members, (m) => posts.s[m.a]),
    position: new Float64Array(n * 3),
    front: new Float64Array(n * 3),
    up: new Float64Array(n * 3),
  };
  members.forEach((m, i) => {
    sites.position.set(addScaled(m.from, m.front, pieceAt(m, spans, 0).start), i * 3);
    sites.front.set(m.front, i * 3);
    sites.up.set(m.up, i * 3);
  });
  const middle = ({ from, to }: Member) => from.map((v, a) => (v + to[a]) / 2) as Vec3;
  return {
    ...sites,
    outward: 1,
    odd: (i) => i % 2 === 1,
    keptOut: around.length === 0 ? null : (i) => around.some((test) => test(middle(members[i]))),
  };
}

interface Member {
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

/** The k-th piece of a member, metres from the member's beginning. */
function pieceAt(m: Member, { fit, inset, size }: Spans, k: number) {
  const whole = (fit === 'cut' || fit === 'trim') && m.own > 1e-6;
  let from = (m.length / m.pieces) * k;
  let length = m.length / m.pieces;
  if (whole && fit === 'cut') [from, length] = [m.own * k, Math.min(m.own, m.length - m.own * k)];
  if (whole && fit === 'trim') {
    length = Math.min(m.own, m.length);
    from = (m.length - length) / 2;
  }
  // Whole pieces keep their length where they are cut; others are as long as they have to be.
  const long = whole ? size : m.own > 1e-6 ? (length / m.own) * size : 1;
  return {
    from,
    length,
    /** Its size along the member. */
    long,
    /** Where its foot stands: its mesh may begin before or behind that. */
    start: inset + from - m.low * long,
    short: whole && length < m.own - 1e-9 * m.own,
  };
}

/**
 * Writes the pieces of a member from row `row` on, one behind the other as the member came out.
 * @param settled the members as they came out, this one in row `i` @returns the row after them
 */
function lay(
  m: Member,
  i: number,
  settled: Placements,
  spans: Spans,
  posts: Placements,
  out: Placements,
  row: number,
  shaper: Shaper,
): number {
  const first = pieceAt(m, spans, 0);
  const at = [...settled.position.subarray(i * 3, i * 3 + 3)] as Vec3;
  const rotation = [...settled.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
  const front = quatRotate(rotation, [0, 0, 1]);
  const [sx, sy, sz] = settled.scale.subarray(i * 3, i * 3 + 3);
  // What is locked was as long as it is held; sizes of others go across.
  const longer = spans.hand[slotName(settled.slot[i])]?.lock ? sz / first.long : 1;
  const facts = shaper.context.prop(out.props[settled.prop[i]]);
  const mesh = facts?.state === 'ready' ? facts.mesh?.() : undefined;
  const way = spans.follow && mesh ? followed(m, spans, posts, shaper) : null;
  const high = m.low + m.own / spans.size;
  for (let k = 0; k < m.pieces; k++, row++) {
    const piece = pieceAt(m, spans, k);
    out.slot[row] = settled.slot[i];
    out.state[row] = settled.state[i];
    out.s[row] = settled.s[i];
    out.prop[row] = settled.prop[i];
    out.position.set(addScaled(at, front, (piece.start - first.start) * longer), row * 3);
    out.rotation.set(rotation, row * 4);
    out.scale.set([sx, sy, piece.long * longer], row * 3);
    if (!mesh) continue;
    const cut = m.low + piece.length / spans.size;
    if (way) {
      const part = partOf(way, m, spans, piece);
      const clipped = piece.short ? clipAlong(mesh, 2, m.low - 1, cut) : mesh;
      const range: [number, number] = [m.low, piece.short ? cut : high];
      shaper.shapes.put(row, `${row}`, () =>
        followMember(clipped, range, part, sx, spans.rollDeg * DEG, ...straight(m, spans, piece), (pieces) =>
          shaper.slices.most(out.slot[row], `${k}`, pieces),
        ),
      );
    } else if (piece.short)
      shaper.shapes.put(row, `${m.prop} ${piece.length.toFixed(6)} ${sx}`, () =>
        cutMember(mesh, m.low, piece.length / spans.size, [sx, spans.size]),
      );
  }
  return row;
}

/** A piece as it lies straight between the posts, which its bent shape is seen from: what a hand moves, moves whole. */
function straight(m: Member, { rollDeg }: Spans, { start }: { start: number }): [Vec3, Quat] {
  const up = rollDeg === 0 ? m.up : rotateAbout(m.up, m.front, rollDeg * DEG);
  const rotation: Quat = [0, 0, 0, 1];
  writeQuatFromUpFront(rotation, 0, ...up, ...m.front);
  return [addScaled(m.from, m.front, start), rotation];
}

/** The stretch of a member's way that one of its pieces follows. */
function partOf(
  way: Follow,
  m: Member,
  { inset }: Spans,
  { from, length }: { from: number; length: number },
): Follow {
  const share = (x: number) => (x + inset) / (m.length + 2 * inset);
  const [t0, t1] = [share(from), share(from + length)];
  const mix = ([a, b]: readonly [number, number], t: number) => a + (b - a) * t;
  const both = (v: [number, number]): [number, number] => [mix(v, t0), mix(v, t1)];
  return {
    path: way.path,
    from: mix([way.from, way.to], t0),
    to: mix([way.from, way.to], t1),
    side: both(way.side),
    lift: both(way.lift),
  };
}

/** The way of a member along the path that its posts stand on; null where they stand on none, or it is straight. */
function followed(m: Member, spans: Spans, posts: Placements, { context, parts }: Shaper): Follow | null {
  const { part, stroke } = slotParts(posts.slot[m.a]);
  const range = parts.find((p) => p.part === part && p.stroke === stroke);
  const compiled = range && context.path(range.path);
  const path = compiled?.ok ? compiled.strokes[stroke] : undefined;
  if (!range || !path) return null;
  const lies = (row: number) => (range.rest ? carriedLength(path, posts.s[row]) : posts.s[row]);
  const [s, s2] = [lies(m.a), lies(m.b)];
  const [side, lift, along] = seenFromPath(path, s, m.from);
  const [side2, lift2, along2] = seenFromPath(path, s2, m.to);
  const from = s + along;
  let to = s2 + along2;
  // Over the seam of a loop it goes on round.
  if (path.closed && to <= from) to += path.length;
  return to - from > 1e-6 ? { path, from, to, side: [side, side2], lift: [lift, lift2] } : null;
}

/** Two members that meet at a post at an angle. */
interface Joint {
  before: Member;
  after: Member;
}

/** Where placed members meet at an angle of `least` radians or more. */
function jointsOf(members: Member[], { state }: Placements, least: number): Joint[] {
  const there = members.filter((_, i) => state[i] === STATE.placed);
  const leaving = new Map(there.map((m) => [m.a, m]));
  return there.flatMap((before) => {
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
  const up = upBetween(posts, after.a, after.b, front);
  out.slot[row] = posts.slot[after.a];
  out.s[row] = posts.s[after.a];
  out.prop[row] = prop;
  out.position.set(after.from, row * 3);
  writeQuatFromUpFront(out.rotation, row * 4, up[0], up[1], up[2], front[0], front[1], front[2]);
  out.scale.fill(spans.size, row * 3, row * 3 + 3);
}

/** Up of a member: between those of its posts, square to its length. */
function upBetween(posts: Placements, a: number, b: number, front: Vec3): Vec3 {
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
