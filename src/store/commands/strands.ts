import type { Strands } from '@/core/arrange/strands/schema';
import type { Scene } from '@/core/scene/schema';
import type { LineMesh } from '@/core/mesh/meshRef';
import { newProp, takeId } from '@/core/scene/defaults';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement, freeName } from './find';
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

/** Makes a prop for lines and puts it in the place of what lies along these. @returns the prop's id */
export const giveLineBody = command<{ id: string; name: string; mesh: LineMesh }>({
  apply(scene, { id, name, mesh }) {
    const lines = findStrands(scene, id);
    const prop = takeId(scene, 'prop');
    // Its middle goes along the line.
    scene.props.push({ ...newProp(prop, freeName(scene.props, name), mesh), foot: { at: 'centre' } });
    lines.props = [{ prop, weight: 1 }];
    return prop;
  },
  name: (before, _, { id, name }) => `${findArrangement(before, id).name}: “${name}” along them`,
});

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
