import { inOrder, valueAtTime } from '@/core/evaluate/timed/moments';
import { isTimeable } from '@/core/evaluate/timed/timed';
import type { Timed } from '@/core/scene/timedSchema';
import { useClock } from '@/store/clock';
import type { LinkedField } from '@/store/commands/links';
import {
  endTimed,
  removeMoment,
  SAME_MOMENT,
  setMoment,
  setMomentWay,
  timedOf,
} from '@/store/commands/timed';
import { dispatch, useDocument } from '@/store/document';
import { parseMeasure, type Dimension } from '@/words/measure';
import type { MenuEntry } from './PlainMenu';
import { say } from '../uiState';

/** A number that changes with time, as it is at the moment that is shown. */
export interface TimedNumber {
  timed: Timed;
  value: number;
}

/** What a number is now, where it changes with time. */
export function useTimedNumber(at: LinkedField | null): TimedNumber | null {
  const timed = useDocument((s) => (at ? timedOf(s.scene, at) : undefined));
  const time = useClock((s) => (timed ? s.time : 0));
  return timed ? { timed, value: valueAtTime(inOrder(timed.moments), time) } : null;
}

/** Says what a number is at the moment that is shown, or at another one. */
export function keepMoment(
  at: LinkedField,
  value: number,
  key?: string,
  time = useClock.getState().time,
): void {
  const { refused } = dispatchTold(() => dispatch(setMoment, { ...at, at: time, value }, key));
  if (refused) say(refused);
}

/** A command that says in a sentence why it cannot be done. */
function dispatchTold(run: () => unknown): { refused: string | null } {
  try {
    run();
    return { refused: null };
  } catch (error) {
    return { refused: (error as Error).message };
  }
}

/** Takes what was typed as "2.4 @ 3": a value at a moment, seconds. @returns whether it was that */
export function takeMoment(at: LinkedField, text: string, dimension: Dimension, unit: string): boolean {
  const [value, moment, ...more] = text.split('@');
  if (moment === undefined || more.length > 0) return false;
  const [v, t] = [parseMeasure(value, dimension, unit), parseMeasure(moment.replace(/s\s*$/, ''), 'plain')];
  if (v === null || t === null) return false;
  keepMoment(at, v, undefined, t);
  return true;
}

const WAYS = [
  { way: 'eased', text: 'Goes on eased', hint: 'Slow at both ends, on to the next moment' },
  { way: 'straight', text: 'Goes on evenly', hint: 'Straight on to the next moment' },
  { way: 'held', text: 'Held until the next moment', hint: 'Stop and go' },
] as const;

/** What can be done with a number in time, for the menu beside it. @param value of its own */
export function timedEntries(at: LinkedField, now: TimedNumber | null, value: number): MenuEntry[] {
  if (!now && !isTimeable(useDocument.getState().scene, { node: at.node, field: [...at.field] })) return [];
  if (!now)
    return [
      {
        text: 'Changes with time',
        hint: 'It keeps this value at the moment that is shown; at another moment, type another',
        run: () => keepMoment(at, value),
      },
    ];
  const { time } = useClock.getState();
  const { id, moments } = now.timed;
  const here = moments.find((m) => Math.abs(m.at - time) < SAME_MOMENT);
  return [
    ...(here
      ? [
          ...WAYS.filter(({ way }) => way !== here.way).map(({ way, ...entry }) => ({
            ...entry,
            run: () => void dispatch(setMomentWay, { id, at: here.at, way }),
          })),
          { text: 'Take this moment away', run: () => void dispatch(removeMoment, { id, at: here.at }) },
        ]
      : [{ text: 'A moment here', hint: 'Keeps what it is now', run: () => keepMoment(at, now.value) }]),
    {
      text: 'The same at every time',
      hint: 'It stays as it is now',
      run: () => void dispatch(endTimed, { id, at: time }),
    },
  ];
}
