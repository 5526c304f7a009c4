import { metricsOf } from '../../curve/metrics';
import { carriedLength } from '../../curve/laid';
import { alongPoints, onPath, pointAt } from '../../curve/sample';
import type { SpacingFacts } from '../result';
import { slotId, parseSlotName } from '../slotId';
import { decidedByHand, markGaps } from '../steps/gaps';
import type { KeptOut } from '../steps/keepOuts';
import { orderSlots } from '../steps/order';
import { rampAt } from '../../math/ramp';
import { shareBetween } from '../steps/ramp';
import { STATE } from '../result';
import type { SpecialItem } from '../steps/schema';
import { MAX_SLOTS } from '../steps/spacing';
import {
  carriedLayout,
  layTouching,
  type TouchItem,
  type TouchLayout,
  type TouchSettings,
} from '../steps/touch';
import { unvaried, varier, VARIED } from '../steps/variation';
import { asItLies, nudgeAlong, plainLane, slotsAtCorners, type Lane, type Refused, type Where } from './lane';
import { reachAlong, type PropSizes } from './sizes';
import { swapByHand } from '../steps/byHand';
import type { Pulley } from '../steps/schema';
import { pulleyWay } from './pulleyWay';
import type { Run } from './schema';

/** What closing up closes over. A place that is kept out stays empty, and a pause stays a pause. */
const GONE = new Set<number>([STATE.hand, STATE.chance, STATE.taken]);
/** More rounds than this settle nothing any more. */
const MOST_ROUNDS = 200;

/** Props end to end: which prop stands where decides how long it is, so the order comes first here. */
export function touchLane(
  run: Run,
  sizes: PropSizes,
  where: Where,
  time: number,
  facts: SpacingFacts,
  first: boolean,
  keptOut: KeptOut | null,
): Lane | Refused {
  const { measure: path, row } = where;
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
  const share = shareBetween(spacing, path.length);
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
  swapByHand(run.hand, ids, order.prop, sizes.ids);
  const indexOf = (item: SpecialItem | null) => (item?.kind === 'prop' ? sizes.ids.indexOf(item.prop) : -1);
  let atCorners = new Set<number>();
  const propOf = (n: number, of: number) => {
    if (n === of - 1 && run.order.last) return indexOf(run.order.last);
    return run.order.corner && n > 0 && atCorners.has(n) ? indexOf(run.order.corner) : order.prop[n];
  };
  let taken: Set<number> | null = null;
  const judge = (layout: TouchLayout, state: Uint8Array, isPause: (i: number) => boolean) => {
    const { s, position: p } = layout;
    const isKeptOut = (i: number): boolean => {
      if (!keptOut) return false;
      if (!skipped[i]) return keptOut(s[i], [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]], ids[i]);
      // What takes no room is asked for where it would stand if it did.
      const at = onPath(path, s[i] + measured(i, state.length).back);
      return keptOut(at, pointAt(path, at), ids[i]);
    };
    const rows = { id: ids.subarray(0, state.length), isPause, isKeptOut, around: loop };
    const { gaps, seed } = run;
    const judged = taken ? { ...gaps, taken: { ...gaps.taken, share: 0 } } : gaps;
    markGaps(judged, rows, { seed, hand: decidedByHand(run.hand) }, state);
    // A share of those that fit at first is taken; what comes to fit instead of them is not taken from again.
    for (const i of taken ?? [])
      if (state[i] === STATE.placed || state[i] === STATE.chance) state[i] = STATE.taken;
    taken ??= new Set([...state.keys()].filter((i) => state[i] === STATE.taken));
  };
  const draws = varier(run.variation, run.seed, sizes.ids);
  const drawn = unvaried();
  const hand = new Map(Object.entries(run.hand).map(([name, h]) => [parseSlotName(name), h]));
  const sizeOf = (n: number, prop: number): number => {
    if (draws) draws.vary(ids[n], prop, drawn);
    return (
      run.facing.size * (draws ? drawn[VARIED.size] * drawn[VARIED.sizeZ] : 1) * (hand.get(ids[n])?.size ?? 1)
    );
  };
  const skipped = new Uint8Array(bound);
  const measured = (n: number, of: number): TouchItem => {
    const prop = propOf(n, of);
    // Beyond the last that is known there is only the question whether more would fit.
    if (!(prop >= 0))
      return { back: (restLength / 2) * run.facing.size, front: (restLength / 2) * run.facing.size };
    const size = sizeOf(n, prop);
    const r = reaches[prop];
    const length = r.back + r.front > 1e-6 ? r : { back: restLength / 2, front: restLength / 2 };
    return { back: length.back * size, front: length.front * size };
  };
  const itemOf = (n: number, of: number): TouchItem =>
    skipped[n] ? { back: 0, front: 0, skip: true } : measured(n, of);
  const settings = {
    clearance: spacing.clearance,
    leftover: spacing.leftover,
    start,
    end: start + usable,
    loop,
    level: run.facing.posture === 'upright',
    sizeAt: path.size.some((v) => v !== 1) ? (s: number) => alongPoints(path, path.size, s) : () => 1,
    arc: run.facing.bend,
    // Over a surface they are moved to the side when they stand.
    side: (s: number) =>
      run.facing.posture === 'surface' && where.path.on
        ? 0
        : row.offset + run.facing.side + rampAt(run.facing.sideRamp, share(s), 0),
  } satisfies TouchSettings;
  const lay = (from: number) =>
    layTouching(path, { ...settings, start: start + from, end: start + usable + from }, itemOf, bound);
  const from = loop ? pulleyWay(run.pulley, time, { whole: path.length }) % path.length : 0;
  let layout = lay(from);
  // What stands at the corners depends on the layout, and the layout on what stands there: a few rounds settle it.
  for (let round = 0; run.order.corner && round < 4 && typeof layout !== 'string'; round++) {
    const found = slotsAtCorners(path, layout.s, usable / Math.max(1, layout.count));
    if (found.size === atCorners.size && [...found].every((i) => atCorners.has(i))) break;
    atCorners = found;
    layout = lay(from);
  }
  if (typeof layout === 'string') return { problem: layout, detail: { wanted: bound, least: 0 } };
  const state = run.gaps.after === 'close' ? new Uint8Array(bound) : undefined;
  // What is gone makes room for others, and those are judged too: each round more of them is known to stay.
  for (let round = 0; state && round < MOST_ROUNDS; round++) {
    const n = layout.count;
    judge(layout, state.subarray(0, n), (i) => propOf(i, n) < 0);
    const gone = Uint8Array.from(skipped, (_, i) => (i < n && GONE.has(state[i]) ? 1 : 0));
    if (gone.every((v, i) => v === skipped[i])) break;
    skipped.set(gone);
    const again = lay(from);
    if (typeof again === 'string') break;
    layout = again;
  }
  /** Where rounds came to no end, or the last place or the pulley's way came after them, those that lie now are judged. */
  const judgeAsLaid = (lies: TouchLayout, now: Uint8Array) => {
    const was = now.slice();
    judge(lies, now, (i) => propOf(i, now.length) < 0);
    // What takes no room as it was laid is not there, whatever would have become of it.
    for (let i = 0; i < now.length; i++) if (skipped[i] && now[i] === STATE.placed) now[i] = was[i];
  };
  const ends =
    layout.count > 0 ? [layout.back[0] - start, start + usable - layout.front[layout.count - 1]] : [0, 0];
  const room = { back: Math.max(0, ends[0]), on: Math.max(0, ends[1]) };
  const moved = loop ? from : pulleyWay(run.pulley, time, { whole: usable, ...room });
  const filled = run.facing.bend && run.facing.fill && !path.closed && moved === 0;
  if (filled) layout = withOneMore(layout, path, settings, itemOf, bound);
  if (!loop && moved !== 0) layout = pulled(layout, lay, moved, run.pulley.ends, settings);
  const count = layout.count;
  if (count === 0) return { problem: 'nothing-fits', detail: { usable } };
  if (state) judgeAsLaid(layout, state.subarray(0, count));
  facts.factor = layout.factor;
  const pitch = count > 1 ? (layout.s[count - 1] - layout.s[0]) / (count - 1) : usable;
  if (first) Object.assign(facts, { pitch, pitches: [pitch, pitch] });
  facts.pitches = [Math.min(facts.pitches[0], pitch), Math.max(facts.pitches[1], pitch)];
  const past = new Uint8Array(count);
  const hair = 1e-6 * path.length;
  if (!path.closed)
    layout.s.forEach(
      (s, i) => (past[i] = !filled && (s < start - hair || s > start + usable + hair) ? 1 : 0),
    );
  const prop = Int32Array.from({ length: count }, (_, i) => propOf(i, count));
  const s = layout.s.slice();
  const id = ids.slice(0, count);
  nudgeAlong(run, id, s);
  return {
    ...plainLane(where),
    id,
    s,
    prop,
    orderEmpty: order.empty,
    past,
    at: asItLies(where, s),
    touch: path === where.path ? layout : carriedTo(where, layout, settings),
    ...(state && { state: state.slice(0, count) }),
    ...(filled && { cutAt: carriedLength(where.path, start + usable) }),
  };
}

/** Laid end to end on a surface at rest, as that carries it: feet and directions as they are now. */
const carriedTo = (where: Where, layout: TouchLayout, settings: TouchSettings): TouchLayout => {
  const { path, measure } = where;
  // Rows and ramps count lengths where they were laid.
  const side = (s: number) => settings.side((s / path.length) * measure.length);
  return carriedLayout(layout, path, (s) => carriedLength(path, s), { ...settings, side });
};

/** With one more item where there is room left for a part of one: it is cut off there. */
function withOneMore(
  rest: TouchLayout,
  path: Parameters<typeof layTouching>[0],
  settings: Parameters<typeof layTouching>[1],
  itemOf: (n: number, of: number) => TouchItem,
  bound: number,
): TouchLayout {
  const n = rest.count;
  const next = itemOf(n, n + 1);
  const ends = n > 0 ? rest.front[n - 1] : settings.start;
  if (settings.leftover !== 'end' || settings.end - ends < 1e-6 * path.length) return rest;
  const more = layTouching(
    path,
    { ...settings, end: settings.end + next.back + next.front },
    (i, of) => itemOf(i, of),
    Math.min(bound, n + 1),
  );
  return typeof more === 'string' || more.count <= n ? rest : more;
}

/** The pulley on an open path: each item where it has come to, from either side where they wrap. */
function pulled(
  rest: TouchLayout,
  lay: (from: number) => TouchLayout | string,
  shift: number,
  ends: Pulley['ends'],
  settings: { start: number; end: number },
): TouchLayout {
  const room = settings.end - settings.start;
  const by = ends === 'wrap' ? ((shift % room) + room) % room : shift;
  const a = lay(by);
  if (typeof a === 'string') return rest;
  if (ends !== 'wrap') return a;
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
