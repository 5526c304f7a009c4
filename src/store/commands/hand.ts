import type { HandCorrection } from '@/core/arrange/steps/schema';
import { corrected } from '@/core/arrange/steps/corrected';
import { slotName } from '@/core/arrange/slotId';
import { patchesBetween, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { findProp, findWith } from './find';
import { describeChange } from './naming';

/** Commands for what a hand corrects: single slots, kept by slot name through every later change. */

const many = (slots: number[]) => (slots.length === 1 ? `#${slotName(slots[0])}` : `${slots.length} slots`);

/** Sets fields of corrections; the others of each slot stay. */
function correct(
  scene: Scene,
  id: string,
  names: string[],
  values: (now: HandCorrection | undefined, name: string) => Partial<HandCorrection>,
): Patch[] {
  const found = findWith(scene, id, 'hand');
  const at = scene.arrangements.findIndex((a) => a.id === id);
  return patchesBetween(found.hand, corrected(found.hand, names, values), ['arrangements', at, 'hand']);
}

/** Sets nudges (metres, degrees, a factor) of one slot. */
export const nudgeSlot = patching<{
  id: string;
  slot: number;
  values: Pick<HandCorrection, 'along' | 'side' | 'lift' | 'turnDeg' | 'size'>;
}>({
  patches: (scene, { id, slot, values }) => correct(scene, id, [slotName(slot)], () => values),
  name: (before, _, { id, slot, values }) =>
    `nudge #${slotName(slot)}: ${describeChange({ along: 0, side: 0, lift: 0, turnDeg: 0, size: 1, ...findWith(before, id, 'hand').hand[slotName(slot)] }, values, before.units)}`,
});

/** Another prop in these slots; null: what the order says. */
export const swapSlots = patching<{ id: string; slots: number[]; prop: string | null }>({
  patches: (scene, { id, slots, prop }) =>
    correct(scene, id, slots.map(slotName), (now) => ({
      prop: prop ?? undefined,
      ...(now?.lock && prop && { lock: { ...now.lock, prop } }),
    })),
  name: (before, _, { slots, prop }) =>
    prop ? `swap ${many(slots)} for “${findProp(before, prop).name}”` : `swap ${many(slots)} back`,
});

/** Bends these slots, or keeps them rigid, whatever the recipe says; null: as the recipe says. */
export const bendSlots = patching<{ id: string; slots: number[]; bend: boolean | null }>({
  patches: (scene, { id, slots, bend }) =>
    correct(scene, id, slots.map(slotName), () => ({ bend: bend ?? undefined })),
  name: (_, __, { slots, bend }) =>
    bend === null
      ? `bend or not as the recipe says: ${many(slots)}`
      : `${bend ? 'bend' : 'keep rigid'} ${many(slots)}`,
});

/** Locks slots where they stand; without places they are free again. @param places by slot name */
export const lockSlots = patching<{
  id: string;
  slots: number[];
  places: Record<string, HandCorrection['lock']> | null;
}>({
  patches: (scene, { id, slots, places }) =>
    correct(scene, id, slots.map(slotName), (_, name) => ({ lock: places?.[name] })),
  name: (_, __, { slots, places }) => `${places ? 'lock' : 'unlock'} ${many(slots)}`,
});

/** Lets corrections go: those slots are as the recipe says again. @param names of slots; all where absent */
export const letGo = patching<{ id: string; names?: string[] }>({
  patches: (scene, { id, names }) =>
    correct(scene, id, names ?? Object.keys(findWith(scene, id, 'hand').hand), (now) =>
      Object.fromEntries(Object.keys(now ?? {}).map((field) => [field, undefined])),
    ),
  name: (_, __, { names }) =>
    !names
      ? 'let go of all by hand'
      : names.length === 1
        ? `let go of #${names[0]}`
        : `let go of ${names.length} slots`,
});
