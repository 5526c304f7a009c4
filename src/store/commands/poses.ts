import { newPoses, type Poses } from '@/core/arrange/poses/schema';
import { command } from '../command';
import { findArrangement } from './find';
import { describeChange } from './naming';

/** Commands for props that play the animations that they bring along. */

/** Sets how the props of an arrangement play; null: they stand as they are at rest. */
export const setPoses = command<{ id: string; values: Partial<Poses> | null }>({
  apply(scene, { id, values }) {
    const a = findArrangement(scene, id);
    if (values === null) delete a.poses;
    else a.poses = { ...(a.poses ?? newPoses()), ...values };
  },
  name(before, _, { id, values }) {
    const found = findArrangement(before, id);
    if (values === null) return `“${found.name}” at rest`;
    if (!found.poses) return `let “${found.name}” play`;
    return `poses: ${describeChange(found.poses, values, before.units)}`;
  },
});
