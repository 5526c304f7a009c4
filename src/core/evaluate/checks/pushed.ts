import type { ArrangeContext } from '../../arrange/context';
import { kindOf, type Arrangement, type With } from '../../arrange/registry';
import { STATE, type ArrangementResult } from '../../arrange/result';
import { slotName } from '../../arrange/slotId';
import { corrected } from '../../arrange/steps/corrected';
import { excuses } from './excuses';
import { overlapsOf } from './overlaps';
import { standingOf } from './standing';

/** How far slots are moved on along their path so that none reaches into the one before it. */
export interface Pushed {
  slots: number[];
  /** Metres along, beside what a hand has moved them. */
  by: number[];
}

/** A push, in parts of what lies from one prop to the next; then taken back by halves, so often. */
const PUSH = 1 / 8;
const HALVES = 6;
const MOST_PASSES = 400;

/**
 * Moves slots on along their paths, the later ones out of the earlier, each no farther than it has to: to
 * {@link PUSH} / 2^{@link HALVES} of a pitch.
 * @returns yields now and then; null where there is no room, or nothing to push
 */
export function* pushedApart(a: With<'hand'>, context: ArrangeContext): Generator<void, Pushed | null> {
  const first = kindOf(a).evaluate(a, context);
  const ways = new Map<number, number>();
  let tight = yield* overlapping(a, first, context);
  if (tight.size === 0) return null;
  const step = Math.max(1e-3, pitchOf(first)) * PUSH;
  const pushed = (by: ReadonlyMap<number, number>) => nudged(a, by);
  for (let pass = 0; tight.size > 0; pass++) {
    if (pass === MOST_PASSES) return null;
    for (const slot of tight) ways.set(slot, (ways.get(slot) ?? 0) + step);
    const r = kindOf(a).evaluate(pushed(ways), context);
    if (placedIn(r) < placedIn(first)) return null;
    tight = yield* overlapping(pushed(ways), r, context);
  }
  // The earlier ones first: what is behind them may then be taken back too.
  const inOrder = [...ways.keys()].sort((x, y) => sOf(first, x) - sOf(first, y));
  for (const slot of inOrder) {
    for (let half = 0, back = step / 2; half < HALVES; half++, back /= 2) {
      const tried = new Map(ways).set(slot, ways.get(slot)! - back);
      const r = kindOf(a).evaluate(pushed(tried), context);
      if ((yield* overlapping(pushed(tried), r, context)).size === 0) ways.set(slot, tried.get(slot)!);
    }
  }
  return { slots: inOrder, by: inOrder.map((slot) => ways.get(slot)!) };
}

const nudged = (a: With<'hand'>, by: ReadonlyMap<number, number>): Arrangement => {
  const names = new Map([...by].map(([slot, way]) => [slotName(slot), way]));
  const hand = corrected(a.hand, [...names.keys()], (now, name) => ({
    along: (now?.along ?? 0) + names.get(name)!,
  }));
  return { ...a, hand } as Arrangement;
};

const placedIn = ({ placements }: ArrangementResult): number =>
  placements.state.reduce((n, s) => n + (s === STATE.placed ? 1 : 0), 0);

const sOf = ({ placements: { slot, s } }: ArrangementResult, id: number): number => s[slot.indexOf(id)];

/** The mean way from one placed row to the next. */
function pitchOf({ placements: { s, count }, facts }: ArrangementResult): number {
  if (facts.pitch > 0) return facts.pitch;
  return count > 1 ? (s[count - 1] - s[0]) / (count - 1) : 0;
}

/** Of each two that reach into each other the slot of that which is farther along. */
function* overlapping(
  a: Arrangement,
  r: ArrangementResult,
  context: ArrangeContext,
): Generator<void, Set<number>> {
  const standing = standingOf('', r, context);
  const { placements } = r;
  const { slot, s } = placements;
  // Neighbours that are told to be too tight are pushed too.
  const shown = { a, r: { placements, findings: [] } };
  const later = new Set(r.findings.flatMap((f) => (f.kind === 'too-tight' ? (f.slots ?? []) : [])));
  yield* overlapsOf(standing, standing, excuses(shown, shown), (i, j) =>
    later.add(slot[s[i] > s[j] || (s[i] === s[j] && i > j) ? i : j]),
  );
  return later;
}
