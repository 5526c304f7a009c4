import { slotName } from '@/core/arrange/slotId';
import { corrected } from '@/core/arrange/steps/corrected';
import { patchesBetween, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { command, patching } from '../command';
import { findArrangement, findWith } from './find';

/** Commands that answer findings: what is as it is wanted, and what is lifted each by its own measure. */

/** Says that a finding is as it is wanted, and why; null: it is told again. @param about id of what it is about, or '' */
export const setAsWanted = command<{ id: string; finding: string; about: string; why: string | null }>({
  apply(scene, { id, finding, about, why }) {
    const a = findArrangement(scene, id);
    const left = (a.asWanted ?? []).filter((w) => w.finding !== finding || w.about !== about);
    if (why !== null) left.push({ finding, about, why });
    if (left.length > 0) a.asWanted = left;
    else delete a.asWanted;
  },
  name: (before, _, { id, why }) =>
    `a check of “${findArrangement(before, id).name}” ${why === null ? 'minded again' : 'as it is wanted'}`,
});

/** Moves slots by hand, each by its own measure beside what a hand has moved it. */
const moveEach = (
  scene: Scene,
  { id, slots, by }: { id: string; slots: number[]; by: number[] },
  field: 'lift' | 'along',
): Patch[] => {
  const found = findWith(scene, id, 'hand');
  const at = scene.arrangements.findIndex((a) => a.id === id);
  const more = new Map(slots.map((slot, i) => [slotName(slot), by[i]]));
  const hand = corrected(found.hand, [...more.keys()], (now, name) => ({
    [field]: (now?.[field] ?? 0) + more.get(name)!,
  }));
  return patchesBetween(found.hand, hand, ['arrangements', at, 'hand']);
};

const named = (slots: number[]): string =>
  slots.length === 1 ? `#${slotName(slots[0])}` : `${slots.length} slots`;

/** Moves slots up or down, each by its own measure. @param by metres, one a slot */
export const liftEach = patching<{ id: string; slots: number[]; by: number[] }>({
  patches: (scene, args) => moveEach(scene, args, 'lift'),
  name: (_, __, { slots, by }) => `${by[0] > 0 ? 'lift' : 'lower'} ${named(slots)}`,
});

/** Moves slots on along their path, each by its own measure. @param by metres, one a slot */
export const pushEach = patching<{ id: string; slots: number[]; by: number[] }>({
  patches: (scene, args) => moveEach(scene, args, 'along'),
  name: (_, __, { slots }) => `push ${named(slots)} along`,
});
