import type { CompiledPath } from '../../curve/compile';
import { channel, random01 } from '../../math/random';
import { mostPlaces, slotId } from '../slotId';
import { divisionsOf, pointPlaces, type Place } from './divide';
import { densityScale } from './ramp';
import type { Spacing } from './schema';

/** The most slots one run may have; more is refused with this number rather than freezing anything. */
export const MAX_SLOTS = 500_000;
const LOOSE = channel('spacing.loose');

type SpacingProblem =
  | 'pitch-not-positive'
  | 'count-not-positive'
  | 'too-many-slots'
  | 'no-room'
  | 'no-corners'
  | 'length-not-positive';

export interface SlotRow {
  id: Float64Array;
  /** Metres along the path, in order. */
  s: Float64Array;
  /** Distance between slots before looseness; the usable length when there is one slot. */
  pitch: number;
  usable: number;
  /** Looseness after the limit that the minimum distance sets. */
  loose: number;
  problem?: SpacingProblem;
  /** For "too-many-slots": how many it would be. */
  wanted?: number;
}

export interface SpacingInput {
  length: number;
  closed: boolean;
  /** Needed where the path's own points or corners count. */
  path?: CompiledPath;
  /** Used where the settings say null. */
  autoPitch: number;
  seed: number;
  part?: number;
  row?: number;
  stroke?: number;
  /** This row is moved on by so many pitches (stagger). */
  stagger?: number;
}

/**
 * Slots along one path, for every way of spacing but "touch". Ids count from 1 at the start (or name a division or a
 * point), so that slots keep their ids whatever else changes. A closed path without insets has no ends: its last
 * slot is a whole pitch before its first.
 */
export function spaceSlots(spacing: Spacing, input: SpacingInput): SlotRow {
  const start = Math.max(0, spacing.insetStart);
  const usable = input.length - start - Math.max(0, spacing.insetEnd);
  const loop = input.closed && spacing.insetStart <= 0 && spacing.insetEnd <= 0;
  const none = (problem: SpacingProblem, wanted?: number): SlotRow => ({
    id: new Float64Array(0),
    s: new Float64Array(0),
    pitch: 0,
    usable: Math.max(0, usable),
    loose: 0,
    problem,
    wanted,
  });
  if (!(usable > 0)) return none('no-room');
  const places = placesOf(spacing, input, start, usable, loop);
  if (typeof places === 'string') return none(places);
  if (places.wanted > MAX_SLOTS) return none('too-many-slots', places.wanted);
  const { pitch } = places;
  const n = places.s.length;
  const shift = (input.stagger ?? 0) * pitch;
  const end = start + usable + 1e-9 * input.length;
  const base = slotId(0, input.row, input.part, input.stroke);
  // In their own lists: places that are left out only make room for those that follow.
  let { index: id, s } = places;
  let count = 0;
  for (let i = 0; i < n; i++) {
    const at = s[i] + shift;
    if (!loop && at > end) continue;
    id[count] = base + id[i];
    s[count++] = loop ? wrap(at, input.length) : at;
  }
  if (count < n) [id, s] = [id.slice(0, count), s.slice(0, count)];
  const loose = Math.max(0, Math.min(spacing.looseBy, (pitch - spacing.minDistance) / 2));
  if (spacing.looseBy > 0) loosen(spacing, id, s, pitch, input, { start, end: start + usable, loop });
  return { id, s, pitch, usable, loose };
}

const wrap = (s: number, length: number) => ((s % length) + length) % length;

/**
 * Moves each slot by up to ± looseBy, but never by more than half of what its nearer neighbour leaves above the
 * least distance: neighbours keep their order and that distance.
 */
function loosen(
  spacing: Spacing,
  id: Float64Array,
  s: Float64Array,
  pitch: number,
  input: SpacingInput,
  ends: { start: number; end: number; loop: boolean },
): void {
  const before = s.slice();
  const n = s.length;
  const gap = (i: number) => {
    if (i >= 0 && i + 1 < n) return Math.abs(before[i + 1] - before[i]);
    // The way over the seam, or out at an open end, where there is no neighbour.
    return ends.loop && n > 1 ? wrap(before[0] - before[n - 1], input.length) || input.length : pitch;
  };
  for (let i = 0; i < n; i++) {
    const room = (Math.min(gap(i - 1), gap(i)) - spacing.minDistance) / 2;
    const reach = Math.max(0, Math.min(spacing.looseBy, room));
    const at = before[i] + (2 * random01(input.seed, id[i], LOOSE) - 1) * reach;
    s[i] = ends.loop ? wrap(at, input.length) : Math.min(ends.end, Math.max(ends.start, at));
  }
}

interface Places {
  /** The number that each slot's id carries, and metres along; the caller's own. */
  index: Float64Array;
  s: Float64Array;
  pitch: number;
  wanted: number;
}

function placesOf(
  spacing: Spacing,
  input: SpacingInput,
  start: number,
  usable: number,
  loop: boolean,
): Places | SpacingProblem {
  if (spacing.mode === 'divide' || spacing.mode === 'points') {
    const made =
      spacing.mode === 'divide'
        ? divisionsOf(spacing, { ...input, start, usable, loop })
        : pointPlaces(spacing, input.path, start, usable, input.closed);
    if (typeof made === 'string') return made;
    if (typeof made === 'number') return { ...noPlaces(), pitch: 0, wanted: made };
    const pitch = made.length > 1 ? meanPitch(made, input, loop) : usable;
    // Numbers of points have no bound but that of all ids; no two points of a scene are so many apart.
    const most = mostPlaces(input.stroke ?? 0);
    return {
      index: Float64Array.from(made, (p) => p.index % most),
      s: Float64Array.from(made, (p) => p.s),
      pitch,
      wanted: made.length,
    };
  }
  const dense = spacing.density.length > 0 ? densityScale(spacing.density) : null;
  // Along a ramp the plan is made in a length that is stretched by it, and mapped back.
  const length = usable * (dense?.total ?? 1);
  const plan =
    spacing.mode === 'count' ? planCount(spacing, length, loop) : planPitch(spacing, length, loop, input);
  if (typeof plan === 'string') return plan;
  if (plan.count > MAX_SLOTS) return { ...noPlaces(), pitch: plan.pitch, wanted: plan.count };
  const index = new Float64Array(plan.count);
  const s = new Float64Array(plan.count);
  for (let i = 0; i < plan.count; i++) {
    const at = plan.offset + plan.pitch * i;
    index[i] = i + 1;
    s[i] = start + (dense ? usable * dense.shareAt(at / usable) : at);
  }
  return { index, s, pitch: plan.pitch, wanted: plan.count };
}

const noPlaces = () => ({ index: new Float64Array(0), s: new Float64Array(0) });

const meanPitch = (list: Place[], input: SpacingInput, loop: boolean) =>
  loop ? input.length / list.length : (list[list.length - 1].s - list[0].s) / (list.length - 1);

interface Plan {
  count: number;
  pitch: number;
  offset: number;
}

function planPitch(
  spacing: Spacing,
  usable: number,
  loop: boolean,
  input: SpacingInput,
): Plan | SpacingProblem {
  const asked = spacing.pitch ?? input.autoPitch;
  if (!(asked > 0) || !Number.isFinite(asked)) return 'pitch-not-positive';
  const ratio = usable / asked;
  if (spacing.leftover === 'even') {
    const intervals = Math.round(ratio);
    if (loop) return { count: Math.max(1, intervals), pitch: usable / Math.max(1, intervals), offset: 0 };
    if (intervals < 1) return { count: 1, pitch: usable, offset: usable / 2 };
    return { count: intervals + 1, pitch: usable / intervals, offset: 0 };
  }
  // A hair of tolerance, so that a length that is a whole number of pitches is not cut short by rounding.
  const intervals = Math.floor(ratio + 1e-9 * Math.max(1, ratio));
  if (intervals > MAX_SLOTS) return { count: intervals, pitch: asked, offset: 0 };
  const count = loop ? Math.max(1, intervals) : intervals + 1;
  const leftover = Math.max(0, usable - (loop ? count : count - 1) * asked);
  return { count, pitch: asked, offset: spacing.leftover === 'centre' ? leftover / 2 : 0 };
}

function planCount(spacing: Spacing, usable: number, loop: boolean): Plan | SpacingProblem {
  const n = Math.floor(spacing.count);
  if (!(n >= 1)) return 'count-not-positive';
  if (loop) return { count: n, pitch: usable / n, offset: spacing.ends === 'half' ? usable / n / 2 : 0 };
  if (spacing.ends === 'half') return { count: n, pitch: usable / n, offset: usable / n / 2 };
  // One has no other to be apart from: it stands at the beginning.
  if (n === 1) return { count: 1, pitch: usable, offset: 0 };
  return { count: n, pitch: usable / (n - 1), offset: 0 };
}
