import { slotId } from '../slotId';

/** The slots of a scatter's places: from the round and the number of the candidate that each is one of. */

/** Numbers of a round go into a slot's place as far as this, and on into what else is free. */
const PLACE = 0x800000;

/** More clumps than this on surfaces could not be told apart. */
export const MOST_CLUMPS = 300_000;

/** @param key below 2^31 @param part which of the surfaces */
export const slotOf = (key: number, level: number, part: number): number =>
  slotId(1 + (key % PLACE), level, part, Math.floor(key / PLACE));

/** The k-th about a place of no surface. */
export const childSlot = (key: number, level: number, k: number): number =>
  slotId(1 + (key % PLACE), level, Math.floor(key / PLACE), k + 1);

/** The k-th about a place of a surface. @param key below 2^23: no more than {@link MOST_CLUMPS} have greater ones */
export const childOn = (key: number, level: number, part: number, k: number): number =>
  slotId(1 + (key % PLACE), level, part, k + 1);
