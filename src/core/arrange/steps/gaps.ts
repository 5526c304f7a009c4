import { channel, random01, randomBase, randomOf } from '../../math/random';
import { STATE } from '../result';
import { parseSlotName } from '../slotId';
import type { Gaps, Hand, KeepOut } from './schema';

const CHANCE = channel('gaps.chance');
const TAKEN = channel('gaps.taken');

/** What the hand decided, by slot id: true is removed, false is kept whatever the other gaps say. */
export function decidedByHand(hand: Hand): Map<number, boolean> {
  const out = new Map<number, boolean>();
  for (const [name, c] of Object.entries(hand)) {
    if (c.removed !== undefined) out.set(parseSlotName(name), c.removed);
    else if (c.lock) out.set(parseSlotName(name), false);
  }
  return out;
}

/** Whether `s` lies in a stretch. On a closed path one whose end is before its start runs over the seam. */
export function inKeepOut(keepOut: { from: number; to: number }, s: number, closed: boolean): boolean {
  if (keepOut.from <= keepOut.to) return s >= keepOut.from && s <= keepOut.to;
  return closed ? s >= keepOut.from || s <= keepOut.to : s >= keepOut.to && s <= keepOut.from;
}

/** Slots in order, for their gaps. */
export interface GapRow {
  id: ArrayLike<number>;
  isPause: (i: number) => boolean;
  /** Whether a slot is in some keep-out; `s` and position are the caller's to know. */
  isKeptOut: (i: number) => boolean;
  /** Why a slot was empty before, where it was. */
  before?: Uint8Array;
  /** Where each line of them begins, if they are several: what is in a row is so within a line. */
  lines?: ArrayLike<number>;
  /** Whether the last of a line is followed by its first. */
  around?: boolean;
}

/**
 * Writes why a slot is empty to `state`. The first reason that holds is kept, in this order: by hand, pause, what it was
 * empty for before, keep-out, taken, chance. Gaps by chance stop at the longest run that is allowed, over the seam of
 * what is closed too; taken ones come off an end, or at random by the smallest hashes, so that a greater share takes
 * the same ones and more.
 */
export function markGaps(
  gaps: Gaps,
  row: GapRow,
  where: { seed: number; hand: Map<number, boolean> },
  state: Uint8Array,
): void {
  const byHand = where.hand.size > 0;
  const longest = gaps.longest ?? Infinity;
  const { chance } = gaps;
  const base = randomBase(where.seed, CHANCE);
  let running = 0;
  const mark = (i: number): void => {
    const decided = byHand ? where.hand.get(row.id[i]) : undefined;
    if (decided) state[i] = STATE.hand;
    else if (row.isPause(i)) state[i] = STATE.pause;
    else if (decided === false) state[i] = STATE.placed;
    else if (row.before?.[i]) state[i] = row.before[i];
    else if (row.isKeptOut(i)) state[i] = STATE.keepOut;
    else if (chance > 0 && running < longest && randomOf(base, row.id[i]) < chance) state[i] = STATE.chance;
    else state[i] = STATE.placed;
    running = state[i] === STATE.chance ? running + 1 : 0;
  };
  const n = row.id.length;
  const lines = row.lines ?? [0];
  for (let l = 0; l < lines.length; l++) {
    const [from, to] = [lines[l], l + 1 < lines.length ? lines[l + 1] : n];
    running = 0;
    for (let i = from; i < to; i++) mark(i);
    // Over the seam the run at the end goes on at the beginning, up to the first that is there anyhow.
    if (row.around && running > 0 && longest < to - from)
      for (let i = from, open = true; i < to && open; i++) {
        open = state[i] === STATE.chance;
        if (open) mark(i);
      }
  }
  if (gaps.taken.share > 0) take(gaps, row, where, state);
}

function take(
  gaps: Gaps,
  row: GapRow,
  where: { seed: number; hand: Map<number, boolean> },
  state: Uint8Array,
): void {
  const free: number[] = [];
  for (let i = 0; i < state.length; i++) {
    const open = state[i] === STATE.placed || state[i] === STATE.chance;
    if (open && where.hand.get(row.id[i]) === undefined) free.push(i);
  }
  const count = Math.round(free.length * gaps.taken.share);
  if (gaps.taken.from === 'end') free.reverse();
  if (gaps.taken.from === 'random') {
    const draw = new Map(free.map((i) => [i, random01(where.seed, row.id[i], TAKEN)]));
    free.sort((a, b) => draw.get(a)! - draw.get(b)! || a - b);
  }
  for (const i of free.slice(0, count)) state[i] = STATE.taken;
}

/** Stretches that keep out on one stroke of one part. */
export function rangesOn(keepOuts: readonly KeepOut[], part: number, stroke: number) {
  return keepOuts.filter((k) => k.kind === 'range' && k.part === part && k.stroke === stroke) as Extract<
    KeepOut,
    { kind: 'range' }
  >[];
}

/**
 * Closes up: what is removed by hand, chance or taken gives its place to the next, which keeps its id. Places in
 * keep-outs stay empty, pauses keep theirs. What finds no place any more is left out for the reason that took it.
 * @returns for each row the place that it moves to; its own for what stays
 */
export function closeUp(state: Uint8Array, keptOutAt: (place: number) => boolean): Int32Array {
  const n = state.length;
  const to = Int32Array.from({ length: n }, (_, i) => i);
  const gone = (i: number) =>
    state[i] === STATE.hand || state[i] === STATE.chance || state[i] === STATE.taken;
  let place = 0;
  for (let i = 0; i < n; i++) {
    if (gone(i)) continue;
    // A slot that only its place kept out moves on to one that is free.
    while (place < n && keptOutAt(place)) place++;
    if (place >= n) {
      state[i] = STATE.keepOut;
      continue;
    }
    if (state[i] === STATE.keepOut) state[i] = STATE.placed;
    to[i] = place++;
  }
  return to;
}
