import type { Travel } from './schema';

/** What becomes of a way on a stretch that has ends. Lengths in any one measure. */

type Border = Travel['border'];

/** How far all of them can go back and on together without any leaving the stretch; 0 and more. */
interface Room {
  back: number;
  on: number;
}

/** The room of places on stretches of their own. @param at where each is @param ends of its stretch: from, to */
export function roomOf(at: ArrayLike<number>, ends: (i: number) => readonly [number, number]): Room {
  let [back, on] = [Infinity, Infinity];
  for (let i = 0; i < at.length; i++) {
    const [from, to] = ends(i);
    back = Math.min(back, at[i] - from);
    on = Math.min(on, to - at[i]);
  }
  return { back: Math.max(0, back), on: Math.max(0, on) };
}

/** The way that all go together: no farther than they have room, or there and back in it. */
export function together(border: Border, way: number, { back, on }: Room): number {
  if (border === 'stop') return Math.min(on, Math.max(-back, way));
  if (border !== 'back') return way;
  const span = back + on;
  if (!(span > 0)) return 0;
  const far = remainder(way + back, 2 * span);
  return (far <= span ? far : 2 * span - far) - back;
}

/** Whether those that turn back are on their way back after a way. */
export function isOnTheWayBack(border: Border, way: number, { back, on }: Room): boolean {
  const span = back + on;
  return border === 'back' && span > 0 && remainder(way + back, 2 * span) > span;
}

/**
 * Where one comes to that goes so far. @param around whether the stretch comes round to itself
 * @returns null where it has left the stretch for good
 */
export function placeAfter(
  border: Border,
  at: number,
  way: number,
  [from, to]: readonly [number, number],
  around: boolean,
): number | null {
  const there = at + way;
  if (around || border === 'around') return to > from ? from + remainder(there - from, to - from) : at;
  if (there >= from && there <= to) return there;
  // Those that go together have been held within their ends: what is beyond is a last digit.
  if (border !== 'leave') return Math.min(to, Math.max(from, there));
  return null;
}

/** What is left of `x` over whole times of `by`, never negative. */
const remainder = (x: number, by: number): number => {
  const left = x % by;
  return left < 0 ? left + by : left;
};
