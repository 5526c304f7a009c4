import { zoneAt } from '../../curve/zone';
import { withOwnParts } from './parts';
import type { CompiledPath } from '../../curve/compile';
import type { SpacingFacts } from '../result';
import type { Say } from '../say';
import type { ArrangeContext } from '../context';
import { mostStrokes, parseSlotName, slotParts } from '../slotId';
import { outwardSide } from '../steps/facing';
import type { KeptOut } from '../steps/keepOuts';
import { orderSlots } from '../steps/order';
import { MAX_SLOTS, spaceSlots, type SlotRow } from '../steps/spacing';
import {
  asItLies,
  nudgeAlong,
  plainLane,
  slotsAtCorners,
  type Lane,
  type Refused,
  type RowPlace,
  type Where,
} from './lane';
import { pulleyWay } from './pulleyWay';
import { touchLane } from './touchLane';
import type { PropSizes } from './sizes';
import { swapByHand } from '../steps/byHand';
import type { Run } from './schema';

/** Where the rows of a run lie. Row numbers stay when others are added, so their slots keep their ids. */
function rowsOf(run: Run): RowPlace[] {
  const { count, distance, stagger, side, mirrored } = run.spacing.rows;
  const one = (row: number, offset: number, rank: number): RowPlace => ({
    row,
    offset,
    stagger: rank % 2 === 1 ? stagger : 0,
    mirrored: mirrored && offset < 0,
    alternate: false,
  });
  if (side === 'alternate') return [{ row: 0, offset: distance / 2, stagger: 0, mirrored, alternate: true }];
  const ranks = Array.from({ length: count }, (_, i) => i);
  if (side === 'right') return ranks.map((i) => one(i, i * distance, i));
  if (side === 'left') return ranks.map((i) => one(i, -i * distance, i));
  if (side === 'both')
    return ranks.flatMap((i) => [
      one(2 * i, (i + 0.5) * distance, i),
      one(2 * i + 1, -(i + 0.5) * distance, i),
    ]);
  return ranks.map((i) => one(i, (i - (count - 1) / 2) * distance, i));
}

/**
 * Lays a run's slots out on every stroke of every path it stands on, and says what stands in the way of them.
 * @param keptOut what is kept free on a stroke of a part
 */
export function layOut(
  run: Run,
  context: ArrangeContext,
  sizes: PropSizes,
  asked: number,
  facts: SpacingFacts,
  say: Say,
  keptOut: (part: number, stroke: number, closed: boolean) => KeptOut | null,
): Lane[] {
  const lanes: Lane[] = [];
  let room = MAX_SLOTS;
  if (run.paths.length === 0) say('no-path', {});
  const rows = rowsOf(run);
  for (const { part, path: pathId } of withOwnParts(run.paths)) {
    const compiled = context.path(pathId);
    if (!compiled) say('path-missing', { path: pathId });
    else if (!compiled.ok) say(`path-${compiled.problem}`, { path: pathId });
    if (!compiled?.ok) continue;
    const limit = mostStrokes(part);
    if (compiled.strokes.length > limit)
      say(
        'too-many-strokes',
        {
          path: pathId,
          count: compiled.strokes.length,
          limit,
        },
        'warning',
      );
    for (const [stroke, path] of compiled.strokes.slice(0, limit).entries()) {
      for (const note of path.notes) {
        say(note.kind, { path: pathId, point: note.pointId, amount: note.amount ?? 0 }, 'warning');
      }
      const measure = (run.spacing.measured === 'rest' && path.rest) || path;
      facts.length += measure.length;
      const outward = run.facing.heading === 'outward' ? outwardSide(path) : 1;
      for (const row of rows) {
        const made = laneOf(
          run,
          sizes,
          asked,
          { part, pathId, stroke, path, measure, outward, row },
          context.time ?? 0,
          facts,
          lanes.length === 0,
          keptOut(part, stroke, path.closed),
        );
        if ('problem' in made) {
          say(made.problem, {
            path: pathId,
            limit: MAX_SLOTS,
            pitch: asked,
            length: measure.length,
            ...made.detail,
          });
          break;
        }
        if ((room -= made.id.length) < 0) {
          say('too-many-slots', {
            path: pathId,
            wanted: MAX_SLOTS - room,
            limit: MAX_SLOTS,
            pitch: asked,
            least: (facts.usable * rows.length) / MAX_SLOTS,
            length: facts.length,
          });
          return lanes;
        }
        if (
          lanes.length === 0 &&
          run.spacing.looseBy > 0 &&
          facts.loose < run.spacing.looseBy &&
          run.spacing.mode !== 'touch'
        ) {
          const { looseBy, minDistance } = run.spacing;
          say('loose-limited', { asked: looseBy, amount: facts.loose, least: minDistance }, 'warning');
        }
        lanes.push(made);
      }
    }
  }
  return lanes;
}

function laneOf(
  run: Run,
  sizes: PropSizes,
  asked: number,
  where: Where,
  time: number,
  facts: SpacingFacts,
  first: boolean,
  keptOut: KeptOut | null,
): Lane | Refused {
  const { part, stroke, measure: path, row } = where;
  if (run.spacing.mode === 'touch') return touchLane(run, sizes, where, time, facts, first, keptOut);
  const slots = spaceSlots(run.spacing, {
    length: path.length,
    closed: path.closed,
    path,
    autoPitch: asked,
    seed: run.seed,
    part,
    stroke,
    row: row.row,
    stagger: row.stagger,
  });
  if (row.row === 0) facts.usable += slots.usable;
  if (slots.problem) {
    return { problem: slots.problem, detail: { wanted: slots.wanted ?? 0, least: slots.usable / MAX_SLOTS } };
  }
  if (first)
    Object.assign(facts, { pitch: slots.pitch, pitches: [slots.pitch, slots.pitch], loose: slots.loose });
  facts.pitches = [Math.min(facts.pitches[0], slots.pitch), Math.max(facts.pitches[1], slots.pitch)];
  const kept = withLocked(run, slots, where);
  const order = orderSlots(
    run.order,
    {
      ids: kept.id,
      zones: zonesAt(path, kept.s),
      corners: run.order.corner ? slotsAtCorners(path, kept.s, slots.pitch) : undefined,
    },
    run.seed,
    sizes.ids,
  );
  swapByHand(run.hand, kept.id, order.prop, sizes.ids);
  const past = pull(run, path, kept.s, time, aroundOf(run, slots));
  nudgeAlong(run, kept.id, kept.s);
  const at = asItLies(where, kept.s);
  return { ...plainLane(where), ...kept, at, prop: order.prop, orderEmpty: order.empty, past };
}

/** Slots that the recipe no longer has stay where a hand locked them. */
function withLocked(
  run: Run,
  slots: SlotRow,
  { part, stroke, row }: Where,
): { id: Float64Array; s: Float64Array } {
  const locked = Object.entries(run.hand).filter(([, h]) => h.lock);
  if (locked.length === 0) return { id: slots.id, s: slots.s };
  const have = new Set(slots.id);
  const more = locked.flatMap(([name, h]) => {
    const id = parseSlotName(name);
    if (!h.lock || Number.isNaN(id) || have.has(id)) return [];
    const at = slotParts(id);
    return at.part === part && at.stroke === stroke && at.row === row.row ? [{ id, s: h.lock.s }] : [];
  });
  if (more.length === 0) return { id: slots.id, s: slots.s };
  return {
    id: Float64Array.from([...slots.id, ...more.map((m) => m.id)]),
    s: Float64Array.from([...slots.s, ...more.map((m) => m.s)]),
  };
}

/** The zone at each length; undefined where all are in zone 0. */
function zonesAt(path: CompiledPath, s: Float64Array): Int32Array | undefined {
  if (path.zone.every((z) => z === 0)) return undefined;
  return Int32Array.from(s, (at) => zoneAt(path, at));
}

/** Metres after which slots that wrap come round: as many pitches as there are slots; along a density, mean ones. */
function aroundOf({ spacing }: Run, { s, pitch }: SlotRow): number {
  const n = s.length;
  const mean = spacing.density.length > 0 && n > 1 ? (s[n - 1] - s[0]) / (n - 1) : pitch;
  return mean * n;
}

function reachOf(s: Float64Array): [least: number, most: number] {
  let least = Infinity;
  let most = -Infinity;
  for (let i = 0; i < s.length; i++) {
    if (s[i] < least) least = s[i];
    if (s[i] > most) most = s[i];
  }
  return [least, most];
}

/**
 * Moves all slots along by the pulley. Loops wrap; at open ends slots go past, come in at the other end, turn or stay.
 * @param time seconds
 * @param around metres after which the first follows the last at a pitch like everywhere else
 */
function pull(run: Run, path: CompiledPath, s: Float64Array, time: number, around: number): Uint8Array {
  const start = path.closed ? 0 : Math.max(0, run.spacing.insetStart);
  const end = path.closed ? path.length : path.length - Math.max(0, run.spacing.insetEnd);
  const [least, most] = reachOf(s);
  const room = path.closed ? {} : { back: Math.max(0, least - start), on: Math.max(0, end - most) };
  const shift = pulleyWay(run.pulley, time, { whole: Math.max(0, end - start), ...room });
  const past = new Uint8Array(s.length);
  if (shift === 0) return past;
  const hair = 1e-9 * path.length;
  const period = path.closed ? path.length : Math.max(end - start, around);
  for (let i = 0; i < s.length; i++) {
    let at = s[i] + shift;
    if (path.closed || run.pulley.ends === 'wrap') at = start + ((((at - start) % period) + period) % period);
    if (!path.closed && (at < start - hair || at > end + hair)) past[i] = 1;
    s[i] = at;
  }
  return past;
}
