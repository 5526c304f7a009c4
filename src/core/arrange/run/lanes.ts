import type { CompiledPath } from '../../curve/compile';
import { metricsOf } from '../../curve/metrics';
import { alongPoints } from '../../curve/sample';
import { STATE, type Finding, type RunFacts } from '../../evaluate/result';
import type { ArrangeContext } from '../context';
import { MAX_STROKES, parseSlotName, slotId, slotParts } from '../slotId';
import { cornersOf } from '../steps/divide';
import { outwardSide } from '../steps/facing';
import { decidedByHand, markGaps } from '../steps/gaps';
import { orderSlots } from '../steps/order';
import { rampAt } from '../steps/ramp';
import type { SpecialItem } from '../steps/schema';
import { MAX_SLOTS, spaceSlots, type SlotRow } from '../steps/spacing';
import { layTouching, type TouchItem, type TouchLayout } from '../steps/touch';
import { unvaried, varier } from '../steps/variation';
import { reachAlong, type PropSizes } from './sizes';
import type { Run } from './schema';

/** One row of slots on one stroke of one path. */
export interface Lane {
  part: number;
  pathId: string;
  stroke: number;
  path: CompiledPath;
  row: number;
  /** Metres to the right of the path, before the facing step's own. */
  offset: number;
  /** Its slots alternate from side to side of the offset. */
  alternate: boolean;
  /** Faces the other way across the path. */
  mirrored: boolean;
  id: Float64Array;
  /** Metres along, the pulley's way and nudges along included. */
  s: Float64Array;
  /** Prop index of each slot, -1 a rest. */
  prop: Int32Array;
  orderEmpty: boolean;
  /** 1 where the pulley moved a slot past an open end. */
  past: Uint8Array;
  /** Laid end to end: where each stands. */
  touch?: TouchLayout;
  outward: number;
  /** Whether the path's points carry size factors. */
  sized: boolean;
}

interface RowPlace {
  row: number;
  offset: number;
  stagger: number;
  mirrored: boolean;
  alternate: boolean;
}

/** Where the rows of a run lie. Row numbers stay when others are added, so their slots keep their ids. */
export function rowsOf(run: Run): RowPlace[] {
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

/** Lays a run's slots out on every stroke of every path it stands on, and says what stands in the way of them. */
export function layOut(
  run: Run,
  context: ArrangeContext,
  sizes: PropSizes,
  asked: number,
  facts: RunFacts,
  findings: Finding[],
): Lane[] {
  const lanes: Lane[] = [];
  let room = MAX_SLOTS;
  const say = (kind: Finding['kind'], severity: Finding['severity'], detail: Finding['detail']) =>
    findings.push({ kind, severity, node: run.id, detail });
  if (run.paths.length === 0) say('no-path', 'error', {});
  const rows = rowsOf(run);
  for (const { part, path: pathId } of run.paths) {
    const compiled = context.path(pathId);
    if (!compiled) say('path-missing', 'error', { path: pathId });
    else if (!compiled.ok) say(`path-${compiled.problem}`, 'error', { path: pathId });
    if (!compiled?.ok) continue;
    if (compiled.strokes.length > MAX_STROKES)
      say('too-many-strokes', 'warning', {
        path: pathId,
        count: compiled.strokes.length,
        limit: MAX_STROKES,
      });
    for (const [stroke, path] of compiled.strokes.slice(0, MAX_STROKES).entries()) {
      for (const note of path.notes) {
        say(note.kind, 'warning', { path: pathId, point: note.pointId, amount: note.amount ?? 0 });
      }
      facts.length += path.length;
      const outward = run.facing.heading === 'outward' ? outwardSide(path) : 1;
      for (const row of rows) {
        const made = laneOf(
          run,
          sizes,
          asked,
          { part, pathId, stroke, path, outward, row },
          context.time ?? 0,
          facts,
          lanes.length === 0,
        );
        if ('problem' in made) {
          say(made.problem, 'error', {
            path: pathId,
            limit: MAX_SLOTS,
            pitch: asked,
            length: path.length,
            ...made.detail,
          });
          break;
        }
        if ((room -= made.id.length) < 0) {
          say('too-many-slots', 'error', {
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
          say('loose-limited', 'warning', { asked: run.spacing.looseBy, amount: facts.loose });
        }
        lanes.push(made);
      }
    }
  }
  return lanes;
}

interface Where {
  part: number;
  pathId: string;
  stroke: number;
  path: CompiledPath;
  outward: number;
  row: RowPlace;
}
type Refused = { problem: Finding['kind']; detail: Finding['detail'] };

function laneOf(
  run: Run,
  sizes: PropSizes,
  asked: number,
  where: Where,
  time: number,
  facts: RunFacts,
  first: boolean,
): Lane | Refused {
  const { part, stroke, path, row } = where;
  const shift = run.pulley.offset + run.pulley.speed * time;
  if (run.spacing.mode === 'touch') return touchLane(run, sizes, where, shift, facts, first);
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
  if (first) Object.assign(facts, { pitch: slots.pitch, loose: slots.loose });
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
  swapByHand(run, kept.id, order.prop, sizes);
  const past = pull(run, path, kept.s, shift, slots.pitch);
  nudgeAlong(run, kept.id, kept.s);
  return { ...plainLane(where), ...kept, prop: order.prop, orderEmpty: order.empty, past };
}

const plainLane = ({ part, pathId, stroke, path, outward, row }: Where) => ({
  part,
  pathId,
  stroke,
  path,
  outward,
  row: row.row,
  offset: row.offset,
  alternate: row.alternate,
  mirrored: row.mirrored,
  sized: path.size.some((size) => size !== 1),
});

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

/** The zone at each length: that of the point before it. */
function zonesAt(path: CompiledPath, s: Float64Array): Int32Array | undefined {
  if (path.zone.every((z) => z === 0)) return undefined;
  const { pointS, zone } = path;
  return Int32Array.from(s, (at) => {
    // The last point of an open path begins nothing: it belongs to the stretch that ends there.
    let i = pointS.length - (path.closed ? 1 : 2);
    while (i > 0 && pointS[i] > at + 1e-9 * path.length) i--;
    // Before the first point of a loop lies the stretch from the last.
    return pointS[i] > at + 1e-9 * path.length && path.closed ? zone[zone.length - 1] : zone[i];
  });
}

/** For each corner the nearest slot, if it is within three quarters of a pitch. */
function slotsAtCorners(path: CompiledPath, s: Float64Array, pitch: number): Set<number> {
  const out = new Set<number>();
  for (const corner of cornersOf(path)) {
    let best = -1;
    let least = pitch * 0.75;
    for (let i = 0; i < s.length; i++) {
      let d = Math.abs(s[i] - corner);
      if (path.closed) d = Math.min(d, path.length - d);
      if (d <= least) [best, least] = [i, d];
    }
    if (best >= 0) out.add(best);
  }
  return out;
}

function swapByHand(run: Run, id: ArrayLike<number>, prop: Int32Array, sizes: PropSizes): void {
  const swaps = new Map<number, number>();
  for (const [name, h] of Object.entries(run.hand)) {
    const to = h.lock?.prop ?? h.prop;
    if (to !== undefined) swaps.set(parseSlotName(name), sizes.ids.indexOf(to));
  }
  if (swaps.size) for (let i = 0; i < id.length; i++) prop[i] = swaps.get(id[i]) ?? prop[i];
}

/** Moves all slots along by the pulley. Loops wrap; at open ends slots go past, or come in at the other end. */
function pull(run: Run, path: CompiledPath, s: Float64Array, shift: number, pitch: number): Uint8Array {
  const past = new Uint8Array(s.length);
  if (shift === 0) return past;
  const start = path.closed ? 0 : Math.max(0, run.spacing.insetStart);
  const end = path.closed ? path.length : path.length - Math.max(0, run.spacing.insetEnd);
  const hair = 1e-9 * path.length;
  // Around an open path the last slot is followed by the first at a whole pitch, like everywhere else.
  const period = path.closed ? path.length : Math.max(end - start + pitch, pitch);
  for (let i = 0; i < s.length; i++) {
    let at = s[i] + shift;
    if (path.closed || run.pulley.ends === 'wrap') at = start + ((((at - start) % period) + period) % period);
    if (!path.closed && (at < start - hair || at > end + hair)) past[i] = 1;
    s[i] = at;
  }
  return past;
}

function nudgeAlong(run: Run, id: Float64Array, s: Float64Array): void {
  const moved = new Map<number, number>();
  for (const [name, h] of Object.entries(run.hand)) if (h.along) moved.set(parseSlotName(name), h.along);
  if (moved.size) for (let i = 0; i < id.length; i++) s[i] += moved.get(id[i]) ?? 0;
}

/** Props end to end: which prop stands where decides how long it is, so the order comes first here. */
function touchLane(
  run: Run,
  sizes: PropSizes,
  where: Where,
  shift: number,
  facts: RunFacts,
  first: boolean,
): Lane | Refused {
  const { path, row } = where;
  const { spacing } = run;
  const start = Math.max(0, spacing.insetStart);
  const usable = path.length - start - Math.max(0, spacing.insetEnd);
  const loop = path.closed && spacing.insetStart <= 0 && spacing.insetEnd <= 0;
  if (row.row === 0) facts.usable += Math.max(0, usable);
  if (!(usable > 0)) return { problem: 'no-room', detail: {} };
  const reaches = sizes.bounds.map((b) =>
    b ? reachAlong(b, run.facing, where.outward) : { back: 0, front: 0 },
  );
  const known = reaches.filter((r) => r.back + r.front > 1e-6);
  if (known.length === 0) return { problem: 'length-not-positive', detail: {} };
  const restLength = Math.max(...known.map((r) => r.back + r.front));
  const least = Math.min(...known.map((r) => r.back + r.front));
  // A row on the outside of the bends is longer than the path by the turns times its distance.
  const aside =
    Math.abs(row.offset + run.facing.side) + Math.max(0, ...run.facing.sideRamp.map(([, v]) => Math.abs(v)));
  const longest = usable + 2 * Math.PI * metricsOf(path).turns * aside;
  const bound = Math.min(
    MAX_SLOTS + 1,
    Math.ceil((longest / Math.max(1e-6, least * 0.2 * run.facing.size)) * 1.1) + 4,
  );
  const ids = Float64Array.from({ length: bound }, (_, i) =>
    slotId(i + 1, row.row, where.part, where.stroke),
  );
  const order = orderSlots({ ...run.order, last: null, corner: null }, { ids }, run.seed, sizes.ids);
  swapByHand(run, ids, order.prop, sizes);
  const indexOf = (item: SpecialItem | null) => (item?.kind === 'prop' ? sizes.ids.indexOf(item.prop) : -1);
  let atCorners = new Set<number>();
  const propOf = (n: number, of: number) => {
    if (n === of - 1 && run.order.last) return indexOf(run.order.last);
    return run.order.corner && n > 0 && atCorners.has(n) ? indexOf(run.order.corner) : order.prop[n];
  };
  const draws = varier(run.variation, run.seed, sizes.ids);
  const drawn = unvaried();
  const hand = new Map(Object.entries(run.hand).map(([name, h]) => [parseSlotName(name), h]));
  const sizeOf = (n: number, prop: number): number => {
    if (draws) draws.vary(ids[n], prop, drawn);
    return run.facing.size * (draws ? drawn.size * drawn.sizeZ : 1) * (hand.get(ids[n])?.size ?? 1);
  };
  const skipped = new Uint8Array(bound);
  const itemOf = (n: number, of: number): TouchItem => {
    if (skipped[n]) return { back: 0, front: 0, skip: true };
    const prop = propOf(n, of);
    // Beyond the last that is known there is only the question whether more would fit.
    if (!(prop >= 0))
      return { back: (restLength / 2) * run.facing.size, front: (restLength / 2) * run.facing.size };
    const size = sizeOf(n, prop);
    const r = reaches[prop];
    const length = r.back + r.front > 1e-6 ? r : { back: restLength / 2, front: restLength / 2 };
    return { back: length.back * size, front: length.front * size };
  };
  const settings = {
    clearance: spacing.clearance,
    leftover: spacing.leftover,
    start,
    end: start + usable,
    loop,
    level: run.facing.posture === 'upright',
    sizeAt: path.size.some((v) => v !== 1) ? (s: number) => alongPoints(path, path.size, s) : () => 1,
    side: (s: number) => row.offset + run.facing.side + rampAt(run.facing.sideRamp, s / path.length, 0),
  };
  const lay = (from: number) =>
    layTouching(path, { ...settings, start: start + from, end: start + usable + from }, itemOf, bound);
  const moved = loop ? shift % path.length : shift;
  const from = loop ? moved : 0;
  let layout = lay(from);
  // What stands at the corners depends on the layout, and the layout on what stands there: a few rounds settle it.
  for (let round = 0; run.order.corner && round < 4 && typeof layout !== 'string'; round++) {
    const found = slotsAtCorners(path, layout.s, usable / Math.max(1, layout.count));
    if (found.size === atCorners.size && [...found].every((i) => atCorners.has(i))) break;
    atCorners = found;
    layout = lay(from);
  }
  if (typeof layout === 'string') return { problem: layout, detail: { wanted: bound, least: 0 } };
  if (run.gaps.after === 'close') {
    const state = new Uint8Array(layout.count);
    const n = layout.count;
    const rows = { id: ids.subarray(0, n), isRest: (i: number) => propOf(i, n) < 0, isKeptOut: () => false };
    markGaps(run.gaps, rows, { seed: run.seed, hand: decidedByHand(run.hand) }, state);
    state.forEach((v, i) => (skipped[i] = v > STATE.rest ? 1 : 0));
    const again = lay(from);
    if (typeof again !== 'string') layout = again;
  }
  if (!loop && moved !== 0) layout = pulled(layout, lay, moved, run.pulley.ends, settings);
  const count = layout.count;
  if (count === 0) return { problem: 'nothing-fits', detail: { usable } };
  facts.factor = layout.factor;
  if (first) facts.pitch = count > 1 ? (layout.s[count - 1] - layout.s[0]) / (count - 1) : usable;
  const past = new Uint8Array(count);
  const hair = 1e-6 * path.length;
  if (!path.closed)
    layout.s.forEach((s, i) => (past[i] = s < start - hair || s > start + usable + hair ? 1 : 0));
  const prop = Int32Array.from({ length: count }, (_, i) => propOf(i, count));
  const s = layout.s.slice();
  const id = ids.slice(0, count);
  nudgeAlong(run, id, s);
  return { ...plainLane(where), id, s, prop, orderEmpty: order.empty, past, touch: layout };
}

/** The pulley on an open path: each item where it has come to, from either side where they wrap. */
function pulled(
  rest: TouchLayout,
  lay: (from: number) => TouchLayout | string,
  shift: number,
  ends: 'clip' | 'wrap',
  settings: { start: number; end: number },
): TouchLayout {
  const room = settings.end - settings.start;
  const by = ends === 'wrap' ? ((shift % room) + room) % room : shift;
  const a = lay(by);
  if (typeof a === 'string') return rest;
  if (ends === 'clip') return a;
  const b = lay(by - room);
  if (typeof b === 'string') return a;
  const out = { ...a, s: a.s.slice(), position: a.position.slice(), direction: a.direction.slice() };
  for (let i = 0; i < Math.min(a.count, b.count); i++) {
    if (a.s[i] <= settings.end) continue;
    out.s[i] = b.s[i];
    out.back[i] = b.back[i];
    out.front[i] = b.front[i];
    for (let k = 0; k < 3; k++) {
      out.position[i * 3 + k] = b.position[i * 3 + k];
      out.direction[i * 3 + k] = b.direction[i * 3 + k];
    }
  }
  return out;
}
