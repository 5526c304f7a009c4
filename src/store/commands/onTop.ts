import type { OnTop } from '@/core/arrange/base';
import { valueAt } from '@/core/scene/guard';
import { command } from '../command';
import { findArrangement } from './find';
import { describeChange } from './naming';

/** Commands of the settings that a recipe shows on top, by names of one's own. */

/** Says which settings are shown on top, in their order. */
export const setOnTop = command<{ id: string; onTop: OnTop[] }>({
  apply(scene, { id, onTop }) {
    const a = findArrangement(scene, id);
    if (onTop.length > 0) a.onTop = onTop;
    else delete a.onTop;
  },
  name(before, _, { id, onTop }) {
    const was = findArrangement(before, id).onTop ?? [];
    const isNew = (t: OnTop) => !was.some((w) => w.field.join() === t.field.join());
    const isGone = (w: OnTop) => !onTop.some((t) => w.field.join() === t.field.join());
    const other = onTop.find(isNew) ?? was.find(isGone);
    if (!other) {
      const renamed = onTop.find((t) => !was.some((w) => w.name === t.name));
      return renamed ? `call it “${renamed.name}”` : 'order of settings on top';
    }
    return onTop.length > was.length ? `“${other.name}” on top` : `“${other.name}” not on top`;
  },
});

/** Sets a number or a range of a recipe, wherever in it that stands. */
export const setSetting = command<{
  id: string;
  field: readonly string[];
  value: number | [number, number] | null;
  title: string;
}>({
  apply(scene, { id, field, value }) {
    const holder = valueAt(findArrangement(scene, id), field.slice(0, -1)) as Record<string, unknown> | null;
    const last = field[field.length - 1];
    if (!holder || !(last in holder)) throw new Error(`"${id}" has no setting ${field.join('.')}.`);
    holder[last] = value;
  },
  name(before, _, { id, field, value, title }) {
    const last = field[field.length - 1];
    const was = valueAt(findArrangement(before, id), field);
    return describeChange({ [last]: was }, { [last]: value }, before.units, { [last]: title });
  },
});
