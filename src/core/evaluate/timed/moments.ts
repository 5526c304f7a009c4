import type { Moment } from '../../scene/timedSchema';

/** What moments come to in between. */

/** Moments from the earliest on; of several at one time the last of the list counts. */
export function inOrder(moments: readonly Moment[]): Moment[] {
  const by = new Map(moments.map((m) => [m.at, m]));
  return [...by.values()].sort((a, b) => a.at - b.at);
}

/** How far a value has gone on its way to the next, 0–1; the eased way is slow at both ends (3 x² − 2 x³). */
const gone = (way: Moment['way'], x: number): number =>
  way === 'held' ? 0 : way === 'straight' ? x : x * x * (3 - 2 * x);
/** The area under {@link gone} from 0 to x. */
const under = (way: Moment['way'], x: number): number =>
  way === 'held' ? 0 : way === 'straight' ? (x * x) / 2 : x * x * x - (x * x * x * x) / 2;

/** The value at a time. @param moments from {@link inOrder}, at least one @param time seconds */
export function valueAtTime(moments: readonly Moment[], time: number): number {
  const next = moments.findIndex((m) => m.at > time);
  if (next === 0) return moments[0].value;
  if (next < 0) return moments[moments.length - 1].value;
  const [a, b] = [moments[next - 1], moments[next]];
  return a.value + (b.value - a.value) * gone(a.way, (time - a.at) / (b.at - a.at));
}

/** All that a value adds up to from 0 to a time: its integral, in closed form. @param moments from {@link inOrder} */
export const addedUp = (moments: readonly Moment[], time: number): number =>
  fromFirst(moments, time) - fromFirst(moments, 0);

/** The integral from the first moment on; before it that is negative for a positive value. */
function fromFirst(moments: readonly Moment[], time: number): number {
  const first = moments[0];
  if (time <= first.at) return first.value * (time - first.at);
  let sum = 0;
  for (let i = 0; i < moments.length; i++) {
    const [a, b] = [moments[i], moments[i + 1]];
    if (!b || time <= a.at) return sum + a.value * Math.max(0, time - a.at);
    const long = b.at - a.at;
    const x = Math.min(1, (time - a.at) / long);
    sum += long * (a.value * x + (b.value - a.value) * under(a.way, x));
    if (time <= b.at) return sum;
  }
  return sum;
}

/**
 * The number that stands for a value at a time. A speed is multiplied by the time where it is used: then it is its
 * mean since the beginning, so that what it moves is where it has really got to.
 */
export function inForceAt(moments: readonly Moment[], isSpeed: boolean, time: number): number {
  const sorted = inOrder(moments);
  if (!isSpeed || Math.abs(time) < 1e-9) return valueAtTime(sorted, time);
  return addedUp(sorted, time) / time;
}
