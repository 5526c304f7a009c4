import type { Arrangement } from '../../arrange/registry';
import type { Within, WithinCorrection } from '../../arrange/steps/withinSchema';

type Hand = Record<string, WithinCorrection>;

/** What a hand corrects in one copy: in the arrangements that it holds by id and slot, and further in by the step there. */
export interface HandWithin {
  own: Map<string, Hand>;
  deeper: Map<string, HandWithin>;
}

/** What a place in a copy is found by: an arrangement that the copy holds, and the name of its slot. */
export const stepKey = (arrangement: string, slot: string): string => `${arrangement} ${slot}`;

const nothing = (): HandWithin => ({ own: new Map(), deeper: new Map() });

function within(map: Map<string, HandWithin>, key: string): HandWithin {
  let found = map.get(key);
  if (!found) map.set(key, (found = nothing()));
  return found;
}

/** Corrections within copies, by the name of the slot of each copy; null where there are none. */
export function handsWithin(list: Within | undefined): Map<string, HandWithin> | null {
  if (!list || list.length === 0) return null;
  const out = new Map<string, HandWithin>();
  for (const { way, hand } of list) {
    let at = within(out, way[0].slot);
    for (const { arrangement, slot } of way.slice(1, -1)) at = within(at.deeper, stepKey(arrangement, slot));
    const { arrangement, slot } = way[way.length - 1];
    const own = at.own.get(arrangement) ?? {};
    own[slot] = hand;
    at.own.set(arrangement, own);
  }
  return out;
}

/** An arrangement in a copy as a hand has corrected it there, over what is corrected of it in all copies. */
export function corrected(a: Arrangement, hand: HandWithin | undefined): Arrangement {
  const own = hand?.own.get(a.id);
  if (!own) return a;
  const all = { ...('hand' in a ? a.hand : {}) } as Hand;
  for (const [slot, values] of Object.entries(own)) all[slot] = { ...all[slot], ...values };
  return { ...a, hand: all } as Arrangement;
}
