import { keepOutSchema, type KeepOut } from '@/core/arrange/steps/schema';
import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findWith, freeName } from './find';
import { describeChange } from './naming';

/** Commands for keep-outs. */

type NewKeepOut = KeepOut extends infer K
  ? K extends KeepOut
    ? Omit<K, 'id' | 'name'> & { name?: string }
    : never
  : never;

/** A keep-out of any kind: a stretch, a region, or a distance. */
export const addKeepOut = command<{ id: string; keepOut: NewKeepOut }>({
  apply(scene, { id, keepOut }) {
    // What a kind has no stretches for, its schema refuses.
    const keepOuts: KeepOut[] = findWith(scene, id, 'gaps').gaps.keepOuts;
    const name = keepOut.name ?? freeName(keepOuts, 'Keep-out');
    const made = keepOutSchema.parse({ ...keepOut, id: takeId(scene, 'keep'), name });
    keepOuts.push(made);
    return made.id;
  },
  name: () => 'add a keep-out',
});

export const setKeepOut = command<{ id: string; keepOut: string; values: object }>({
  apply: (scene, { id, keepOut, values }) => void Object.assign(findKeepOut(scene, id, keepOut), values),
  name: (before, _, { id, keepOut, values }) => {
    const keep = findKeepOut(before, id, keepOut);
    return `${keep.name}: ${describeChange(keep, values, before.units)}`;
  },
});

function findKeepOut(scene: Scene, id: string, keepOut: string): KeepOut {
  const found = findWith(scene, id, 'gaps').gaps.keepOuts.find((k) => k.id === keepOut);
  if (!found) throw new Error(`"${id}" has no keep-out "${keepOut}".`);
  return found;
}

export const removeKeepOut = command<{ id: string; keepOut: string }>({
  apply(scene, { id, keepOut }) {
    const { gaps } = findWith(scene, id, 'gaps');
    gaps.keepOuts.splice(
      gaps.keepOuts.findIndex((k) => k.id === keepOut),
      1,
    );
  },
  name: (before, _, { id, keepOut }) => `remove “${findKeepOut(before, id, keepOut).name}”`,
});
