import { slotName } from '../slotId';
import type { Hand, HandCorrection } from './schema';

/** What a field is when it corrects nothing. */
const REST: { [F in keyof HandCorrection]?: HandCorrection[F] } = {
  along: 0,
  side: 0,
  lift: 0,
  turnDeg: 0,
  size: 1,
};

/** Sets fields of one slot. Fields that say nothing are not kept, nor is a correction without any. */
function put(hand: Hand, name: string, values: Partial<HandCorrection>): void {
  const left = Object.fromEntries(
    Object.entries({ ...hand[name], ...values }).filter(
      ([field, value]) => value !== undefined && value !== REST[field as keyof HandCorrection],
    ),
  );
  if (Object.keys(left).length > 0) hand[name] = left;
  else delete hand[name];
}

/** Corrections by hand with other ones for some slots. @param values for a slot, from what corrects it by now */
export function corrected(
  hand: Hand,
  names: readonly string[],
  values: (now: HandCorrection | undefined, name: string) => Partial<HandCorrection>,
): Hand {
  const next = { ...hand };
  for (const name of names) put(next, name, values(next[name], name));
  return next;
}

/**
 * Corrections with slots taken out, or brought back, also out of a gap by chance or a keep-out. Going back to what the
 * recipe says leaves nothing behind.
 */
export const handRemoved = (hand: Hand, slots: readonly number[], removed: boolean): Hand =>
  corrected(hand, slots.map(slotName), (now) => ({
    removed: now?.removed !== undefined && now.removed !== removed ? undefined : removed,
  }));
