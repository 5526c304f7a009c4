import { channel, random01 } from '../../math/random';
import { STATE } from '../../evaluate/result';
import { parseSlotName } from '../slotId';
import type { Gaps, Hand } from './schema';

const CHANCE = channel('gaps.chance');

/** What the hand decided, by slot id: true is removed, false is kept whatever the other gaps say. */
export function decidedByHand(hand: Hand): Map<number, boolean> {
  return new Map(Object.entries(hand).map(([name, correction]) => [parseSlotName(name), correction.removed]));
}

/** Whether `s` lies in a keep-out. On a closed path a keep-out whose end is before its start runs over the seam. */
export function inKeepOut(keepOut: { from: number; to: number }, s: number, closed: boolean): boolean {
  if (keepOut.from <= keepOut.to) return s >= keepOut.from && s <= keepOut.to;
  return closed ? s >= keepOut.from || s <= keepOut.to : s >= keepOut.to && s <= keepOut.from;
}

/**
 * Writes why a slot is empty to `state`. The first reason that holds is kept, in this order: by hand, rest,
 * keep-out, chance.
 */
export function markGaps(
  gaps: Gaps,
  rows: { id: Float64Array; s: Float64Array; isRest: (i: number) => boolean },
  where: { part: number; closed: boolean; seed: number; hand: Map<number, boolean> },
  state: Uint8Array,
): void {
  const keepOuts = gaps.keepOuts.filter((k) => k.part === where.part);
  for (let i = 0; i < rows.id.length; i++) {
    const decided = where.hand.get(rows.id[i]);
    if (decided) state[i] = STATE.hand;
    else if (rows.isRest(i)) state[i] = STATE.rest;
    else if (decided === false) state[i] = STATE.placed;
    else if (keepOuts.some((k) => inKeepOut(k, rows.s[i], where.closed))) state[i] = STATE.keepOut;
    else if (gaps.chance > 0 && random01(where.seed, rows.id[i], CHANCE) < gaps.chance)
      state[i] = STATE.chance;
    else state[i] = STATE.placed;
  }
}
