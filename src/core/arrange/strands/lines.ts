import { downIn } from '../../curve/hang/wind';
import type { Ends } from '../../curve/hang/hang';
import { channel, random01 } from '../../math/random';
import { lerp, type Vec3 } from '../../math/vec3';
import type { Stroke } from '../../curve/compile';
import { hungBetween, type Hung } from '../../curve/hang/hang';
import type { Hang } from '../../curve/hang/schema';
import type { PathPoint } from '../../curve/schema';
import { groundUnder, liesOn } from '../../mesh/lines/groundUnder';
import { named } from '../../curve/generate/points';
import type { ArrangeContext } from '../context';
import { STATE, type Placements } from '../result';
import { boundsOf, type Say } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import { snapFinder } from '../snapPlace';
import { propsByHand, swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import { weightedAt } from '../steps/weighted';
import { pairsOf } from './pairs';
import { MOST_LINES, type Strands } from './schema';

/** The lines of strands: between which places they hang, and which of them are there. */

const LOOSE = channel('strands.loose');
const PICK = channel('strands.pick');
const DOWN: Vec3 = [0, -1, 0];

export interface Line extends Ends {
  /** The slot that it leaves. */
  slot: number;
  /** Which way it hangs. */
  down: Vec3;
  /** What looseness makes of its slack, length or depth. */
  factor: number;
  /** How it hangs, where it lies on the ground. */
  lies?: Hung;
}

/** The points of a line. */
export const pointsOf = (line: Line, hang: Hang): PathPoint[] =>
  (line.lies ?? hungBetween(line, hang, line.down, line.factor)).points;

export interface Lines {
  list: Line[];
  /** One row a line, midway between its ends, as gaps and hands leave it. */
  placements: Placements;
  /** Ids of what may lie along them; none where they are bare. */
  props: string[];
}

/** Ids of the props of strands, in order of first use. */
export const propsOf = ({ props, hand }: Strands): string[] => [
  ...new Set([...props.map((p) => p.prop), ...propsByHand(hand)]),
];

/** All lines; null, and said, where there are none to be had. */
export function linesOf(strands: Strands, context: ArrangeContext, say: Say): Lines | null {
  const from = context.arrangement?.(strands.from.on);
  const to = strands.to.on === null ? from : context.arrangement?.(strands.to.on);
  if (!from || !to) {
    say('ends-missing', {});
    return null;
  }
  const list = between(strands, from, to, context, say);
  if (!list || list.length > MOST_LINES) {
    say('too-many-members', { limit: MOST_LINES });
    return null;
  }
  if (list.length === 0) say('strands-alone', {}, 'warning');
  const props = propsOf(strands);
  boundsOf(props, context, say);
  const drawn = strands.props.some((p) => p.weight > 0);
  const prop = new Int32Array(list.length);
  const slot = new Float64Array(list.length);
  const middles = new Float64Array(list.length * 3);
  list.forEach((line, i) => {
    slot[i] = line.slot;
    if (drawn) prop[i] = props.indexOf(weightedAt(strands.props, random01(strands.seed, line.slot, PICK)));
    for (let a = 0; a < 3; a++) middles[i * 3 + a] = (line.from[a] + line.to[a]) / 2;
  });
  swapByHand(strands.hand, slot, prop, props);
  const around = keepOutsAround(strands, context, (kind, detail) => say(kind, detail, 'warning'));
  const { placements } = settle(
    { ...strands, posing: { ...AS_IT_LIES, size: strands.size }, gaps: wholeGaps(strands.gaps) },
    [
      {
        slot,
        prop,
        s: new Float64Array(list.length),
        position: middles,
        front: filled(list.length, 2),
        up: filled(list.length, 1),
        outward: 1,
        odd: (i) => i % 2 === 1,
        keptOut: around.length === 0 ? null : keptOutAt(around, middles, slot),
      },
    ],
    { ids: props.length > 0 ? props : [''], bounds: [] },
    context,
    say,
  );
  return { list, placements, props };
}

function filled(n: number, axis: number): Float64Array {
  const out = new Float64Array(n * 3);
  for (let o = axis; o < out.length; o += 3) out[o] = 1;
  return out;
}

function between(
  strands: Strands,
  from: Placements,
  to: Placements,
  context: ArrangeContext,
  say: Say,
): Line[] | null {
  const pairs = pairsOf(strands, from, to, context);
  if (!pairs) return null;
  const { hang, seed } = strands;
  const on = liesOn(hang);
  const meshes = (on === 'all' ? (context.grounds?.() ?? []) : on).flatMap(
    (id) => context.surface?.(id) ?? [],
  );
  if (on !== 'all' && meshes.length < on.length) say('hang-ground', {}, 'warning');
  const fromAt = snapFinder(from, strands.from.snap, context.prop);
  const toAt = snapFinder(to, strands.to.snap, context.prop);
  let missing = 0;
  let snap: string | null = null;
  const { wind, loose } = hang;
  const list: Line[] = [];
  for (const [i, j] of pairs) {
    const [a, b] = [fromAt(i), toAt(j)];
    if (!a || !b) {
      missing++;
      snap = a ? strands.to.snap : strands.from.snap;
      continue;
    }
    const slot = from.slot[i];
    const line: Line = {
      slot,
      from: a.position,
      to: b.position,
      leaves: [a.direction, b.direction],
      down: wind ? downIn(wind, lerp(a.position, b.position, 0.5), context.time ?? 0) : DOWN,
      factor: loose === 0 ? 1 : 1 + loose * (2 * random01(seed, slot, LOOSE) - 1),
    };
    const ground = groundUnder(meshes, line, hang, line.down, line.factor);
    list.push(ground ? lying({ ...line, ground }, hang) : line);
  }
  if (missing > 0) say('strands-snap-missing', { count: missing, snap: snap ?? 'foot' }, 'warning');
  return list;
}

/** A line over ground, solved: it may lie there. */
const lying = (line: Line, hang: Hang): Line => ({
  ...line,
  lies: hungBetween(line, hang, line.down, line.factor),
});

/** Of strokes that were made: each with what it was made from, by the slot that it leaves. */
const madeFrom = new WeakMap<readonly Stroke[], Map<number, { key: string; stroke: Stroke }>>();

/**
 * The lines that are there, as strokes of a path. One that hangs just as it did is the same object, so that what was made
 * of it is still known. @param before those of the last time
 */
export function hungStrokes(
  strands: Strands,
  context: ArrangeContext,
  before: readonly Stroke[] = [],
): Stroke[] {
  const lines = linesOf(strands, context, () => {});
  const known = madeFrom.get(before);
  const now = new Map<number, { key: string; stroke: Stroke }>();
  const how = JSON.stringify(strands.hang);
  let firstPoint = 0;
  const strokes = (lines?.list ?? []).flatMap((line, i): Stroke[] => {
    if (lines!.placements.state[i] !== STATE.placed) return [];
    const { from, to, leaves, down, factor, slot, lies } = line;
    const key = JSON.stringify([from, to, leaves, down, factor, firstPoint, lies?.points ?? how]);
    const have = known?.get(slot);
    const stroke = have?.key === key ? have.stroke : strokeOf(line, strands, firstPoint);
    now.set(slot, { key, stroke });
    firstPoint += stroke.points.length;
    return [stroke];
  });
  madeFrom.set(strokes, now);
  return strokes;
}

const strokeOf = (line: Line, { hang }: Strands, firstPoint: number): Stroke => ({
  points: named(pointsOf(line, hang)),
  closed: false,
  firstPoint,
});
