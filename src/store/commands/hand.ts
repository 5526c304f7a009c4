import type { HandCorrection } from '@/core/arrange/steps/schema';
import { slotName } from '@/core/arrange/slotId';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findProp, findOrdered } from './find';
import { describeChange } from './naming';

/** Commands for what a hand corrects: single slots, kept by slot name through every later change. */

const many = (slots: number[]) => (slots.length === 1 ? `#${slotName(slots[0])}` : `${slots.length} slots`);

/** Fields that say nothing are not kept; a correction without any is none. */
function put(scene: Scene, id: string, name: string, values: Partial<HandCorrection>): void {
  const { hand } = findOrdered(scene, id);
  const next = { ...hand[name], ...values };
  for (const key of Object.keys(next) as (keyof HandCorrection)[]) {
    const rest = key === 'size' ? 1 : ['removed', 'prop', 'lock', 'bend'].includes(key) ? undefined : 0;
    if (next[key] === undefined || next[key] === rest) delete next[key];
  }
  if (Object.keys(next).length === 0) delete hand[name];
  else hand[name] = next;
}

/**
 * Takes slots out by hand, or brings them back, also out of a gap by chance or a keep-out. Going back to what the
 * recipe says leaves nothing behind.
 */
export const setSlotsRemoved = command<{ id: string; slots: number[]; removed: boolean }>({
  apply(scene, { id, slots, removed }) {
    const { hand } = findOrdered(scene, id);
    for (const name of slots.map(slotName)) {
      const now = hand[name]?.removed;
      put(scene, id, name, { removed: now !== undefined && now !== removed ? undefined : removed });
    }
  },
  name: (_, __, { slots, removed }) => `${removed ? 'remove' : 'bring back'} ${many(slots)}`,
});

/** Sets nudges (metres, degrees, a factor) of one slot. */
export const nudgeSlot = command<{
  id: string;
  slot: number;
  values: Pick<HandCorrection, 'along' | 'side' | 'lift' | 'turnDeg' | 'size'>;
}>({
  apply: (scene, { id, slot, values }) => put(scene, id, slotName(slot), values),
  name: (before, _, { id, slot, values }) =>
    `nudge #${slotName(slot)}: ${describeChange({ along: 0, side: 0, lift: 0, turnDeg: 0, size: 1, ...findOrdered(before, id).hand[slotName(slot)] }, values)}`,
});

/** Another prop in these slots; null: what the order says. */
export const swapSlots = command<{ id: string; slots: number[]; prop: string | null }>({
  apply(scene, { id, slots, prop }) {
    for (const slot of slots) {
      const name = slotName(slot);
      const { lock } = findOrdered(scene, id).hand[name] ?? {};
      put(scene, id, name, { prop: prop ?? undefined, ...(lock && prop && { lock: { ...lock, prop } }) });
    }
  },
  name: (before, _, { slots, prop }) =>
    prop ? `swap ${many(slots)} for “${findProp(before, prop).name}”` : `swap ${many(slots)} back`,
});

/** Bends these slots, or keeps them rigid, whatever the recipe says; null: as the recipe says. */
export const bendSlots = command<{ id: string; slots: number[]; bend: boolean | null }>({
  apply(scene, { id, slots, bend }) {
    for (const name of slots.map(slotName)) put(scene, id, name, { bend: bend ?? undefined });
  },
  name: (_, __, { slots, bend }) =>
    bend === null
      ? `bend or not as the recipe says: ${many(slots)}`
      : `${bend ? 'bend' : 'keep rigid'} ${many(slots)}`,
});

/** Locks slots where they stand; without places they are free again. @param places by slot name */
export const lockSlots = command<{
  id: string;
  slots: number[];
  places: Record<string, HandCorrection['lock']> | null;
}>({
  apply(scene, { id, slots, places }) {
    for (const name of slots.map(slotName)) put(scene, id, name, { lock: places?.[name] });
  },
  name: (_, __, { slots, places }) => `${places ? 'lock' : 'unlock'} ${many(slots)}`,
});

/** Lets corrections go: those slots are as the recipe says again. @param names of slots; all where absent */
export const letGo = command<{ id: string; names?: string[] }>({
  apply(scene, { id, names }) {
    const run = findOrdered(scene, id);
    for (const name of names ?? Object.keys(run.hand)) delete run.hand[name];
  },
  name: (_, __, { names }) =>
    !names
      ? 'let go of all by hand'
      : names.length === 1
        ? `let go of #${names[0]}`
        : `let go of ${names.length} slots`,
});
