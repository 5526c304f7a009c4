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
import { addScaled, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { carriedLength } from '../../curve/laid';
import { acos } from '../../math/portable';
import { clipAlong } from '../../mesh/clip';
import type { ArrangeContext } from '../context';
import { ONE_TIME, type Slices } from '../fineness';
import { boundsOf, sayInto } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import type { Sites } from '../sites';
import { slotName, slotParts } from '../slotId';
import { propsByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import type { KeepsOut } from '../steps/keepsOut';
import { weightedProps } from '../steps/weighted';
import { Shapes } from '../steps/shapes';
import { cutMember, followMember, seenFromPath, type Follow } from '../steps/alongPath';
import { postsOf } from './divisions';
import { membersOf, upBetween, type Member } from './members';
import type { Spans } from './schema';

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
  const between = postsOf(spans, context, say);
  const drawn = weightedProps(spans.props, context, say);
  if (!between || !drawn) return nothing([]);
  const { placements: posts, parts } = between;
  const others = [...propsByHand(spans.hand), ...(spans.corner ? [spans.corner.prop] : [])];
  const props = [...new Set([...drawn, ...others])];
  boundsOf(props.slice(drawn.length), context, say);
  const members = membersOf(spans, between, props, context, say);
  if (!members) return nothing(props);
  const around = keepOutsAround(spans, context, (kind, detail) => say(kind, detail, 'warning'));
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
    shapes: new Shapes(),
    slices: context.fine?.of(spans.id) ?? ONE_TIME,
    context,
    parts,
  };
  let row = 0;
  members.forEach((m, i) => {
    row = lay(m, i, settled, spans, posts, out, row, shaper);
  });
  for (const joint of joints) layJoint(joint, spans, posts, props.indexOf(spans.corner!.prop), out, row++);
  return { placements: out, findings, facts: NO_FACTS, parts: [] };
}

/** Members as sites: each stands where its first piece does. Kept out is one whose middle is. */
function sitesOf(members: Member[], spans: Spans, posts: Placements, around: readonly KeepsOut[]): Sites {
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
  const middles = () =>
    Float64Array.from(members.flatMap(({ from, to }) => from.map((v, a) => (v + to[a]) / 2)));
  return {
    ...sites,
    outward: 1,
    odd: (i) => i % 2 === 1,
    keptOut: around.length === 0 ? null : keptOutAt(around, middles(), sites.slot),
  };
}

/** What shapes of their own are made from. */
interface Shaper {
  slices: Slices;
  shapes: Shapes;
  context: ArrangeContext;
  parts: readonly PartRange[];
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
      shaper.shapes.give(out, row, `${row}`, [], () =>
        followMember(clipped, range, part, sx, spans.rollDeg * DEG, ...straight(m, spans, piece), (pieces) =>
          shaper.slices.most(out.slot[row], `${k}`, pieces),
        ),
      );
    } else if (piece.short)
      shaper.shapes.give(out, row, `${m.prop} ${piece.length.toFixed(6)} ${sx}`, [], () =>
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
