import type { Strands } from '@/core/arrange/strands/schema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement } from './find';
import { describeChange } from './naming';

/** Commands of strands. Their blocks of settings have the commands of all arrangements. */

type Values = Partial<Omit<Strands, 'id' | 'kind' | 'from' | 'to'>>;

/** Lines from each to the next of what an arrangement has placed. @param snap where they hang from @returns their id */
export const addStrands = command<{ on: string; snap?: string | null; values?: Values }>({
  apply: (scene, { on, snap = null, values = {} }) =>
    addArrangement(
      scene,
      'strands',
      `Lines of ${findArrangement(scene, on).name}`,
      () => ({ from: { on, snap }, to: { on: null, snap }, ...values }),
      on,
    ),
  name: (before, _, { on }) => `lines from “${findArrangement(before, on).name}”`,
});

function findStrands(scene: Scene, id: string): Strands {
  const found = findArrangement(scene, id);
  if (!('pairs' in found)) throw new Error(`"${id}" has no lines.`);
  return found;
}

/** Sets one end of all lines: the arrangement, or the snap point by its name. */
export const setStrandsEnd = command<{
  id: string;
  end: 'from' | 'to';
  values: { on?: string | null; snap?: string | null };
}>({
  apply(scene, { id, end, values }) {
    Object.assign(findStrands(scene, id)[end], values);
  },
  name: (before, _, { id, end, values }) =>
    describeChange(findStrands(before, id)[end], values, before.units),
});
