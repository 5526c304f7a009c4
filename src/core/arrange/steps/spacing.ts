import { channel, random01 } from '../../math/random';
import { slotId } from '../slotId';
import type { Spacing } from './schema';

/** The most slots one run may have; more is refused with this number rather than freezing anything. */
export const MAX_SLOTS = 500_000;
const LOOSE = channel('spacing.loose');

export type SpacingProblem = 'pitch-not-positive' | 'count-not-positive' | 'too-many-slots' | 'no-room';

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
  /** Used where the settings say null. */
  autoPitch: number;
  seed: number;
  part?: number;
  row?: number;
}

/**
 * Slots along one path. Ids count from 1 at the start, so that slots keep their ids whatever else changes.
 * A closed path without insets has no ends: its last slot is a whole pitch before its first.
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
  const plan =
    spacing.mode === 'count' ? planCount(spacing, usable, loop) : planPitch(spacing, usable, loop, input);
  if (typeof plan === 'string') return none(plan);
  if (plan.count > MAX_SLOTS) return none('too-many-slots', plan.count);
  const id = new Float64Array(plan.count);
  const s = new Float64Array(plan.count);
  const loose = Math.max(0, Math.min(spacing.looseBy, (plan.pitch - spacing.minDistance) / 2));
  for (let i = 0; i < plan.count; i++) {
    id[i] = slotId(i + 1, input.row, input.part);
    let at = start + plan.offset + plan.pitch * i;
    if (loose > 0) {
      at += (2 * random01(input.seed, id[i], LOOSE) - 1) * loose;
      if (loop) at = ((at % input.length) + input.length) % input.length;
      else at = Math.min(start + usable, Math.max(start, at));
    }
    s[i] = at;
  }
  return { id, s, pitch: plan.pitch, usable, loose };
}

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
  if (n === 1) return { count: 1, pitch: usable, offset: usable / 2 };
  return { count: n, pitch: usable / (n - 1), offset: 0 };
}
