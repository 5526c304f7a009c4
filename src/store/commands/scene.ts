import { withPropReplaced } from '@/core/arrange/replaceProp';
import type { LineMesh, MeshRef, Stamp } from '@/core/mesh/meshRef';
import type { Prop } from '@/core/mesh/propSchema';
import type { Print } from '@/core/scene/printSchema';
import type { Scene } from '@/core/scene/schema';
import { newProp, takeId } from '@/core/scene/defaults';
import { patchesBetween } from '@/core/scene/patch';
import { command, patching } from '../command';
import { findProp, freeName } from './find';
import { describeChange } from './naming';

/** Commands for the scene itself and its props. */

export const setScene = command<Partial<Pick<Scene, 'name' | 'units'>>>({
  apply: (scene, values) => void Object.assign(scene, values),
  name: (before, _, values) =>
    values.name !== undefined ? `rename to “${values.name}”` : `units ${before.units} → ${values.units}`,
});

/** How it is printed: its scale, and what the printer can make. */
export const setPrint = command<Partial<Print>>({
  apply: (scene, values) => void Object.assign(scene.print, values),
  name: (before, _, values) => `print: ${describeChange(before.print, values, before.units)}`,
});

type PropSettings = Partial<Omit<Prop, 'id' | 'mesh'>>;

export const addProp = command<{ name: string; mesh: MeshRef; settings?: PropSettings }>({
  apply(scene, { name, mesh, settings }) {
    const prop = { ...newProp(takeId(scene, 'prop'), freeName(scene.props, name), mesh), ...settings };
    scene.props.push(prop);
    return prop.id;
  },
  name: (_, __, { name }) => `bring in “${name}”`,
});

export const setProp = command<{ id: string; values: PropSettings }>({
  apply: (scene, { id, values }) => void Object.assign(findProp(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findProp(before, id).name}: ${describeChange(findProp(before, id), values, before.units)}`,
});

/** Sets several props at once. */
export const setProps = command<{ changes: { id: string; values: PropSettings }[] }>({
  apply(scene, { changes }) {
    for (const { id, values } of changes) Object.assign(findProp(scene, id), values);
  },
  name: (before, _, { changes }) => {
    const [{ id, values }] = changes;
    const what = describeChange(findProp(before, id), values, before.units);
    return changes.length > 1 ? `${changes.length} props: ${what}` : `${findProp(before, id).name}: ${what}`;
  },
});

/** Sets the numbers of a prop that is made for lines. */
export const setLine = command<{ id: string; values: Partial<Omit<LineMesh, 'source'>> }>({
  apply(scene, { id, values }) {
    const { mesh } = findProp(scene, id);
    if (mesh.source === 'line') Object.assign(mesh, values);
  },
  name(before, _, { id, values }) {
    const { name, mesh } = findProp(before, id);
    const called = { sides: 'sides', strands: 'strands', lay: 'lay', color: 'colour' };
    return `${name}: ${describeChange(mesh, values, before.units, called)}`;
  },
});

/** Sets what a stamp is: its pictures, its size, how it is drawn. */
export const setStamp = command<{ id: string; values: Partial<Omit<Stamp, 'source'>> }>({
  apply(scene, { id, values }) {
    const { mesh } = findProp(scene, id);
    if (mesh.source === 'stamp') Object.assign(mesh, values);
  },
  name(before, _, { id, values }) {
    const { name, mesh } = findProp(before, id);
    return `${name}: ${describeChange(mesh, values, before.units, { reliefIs: 'relief' })}`;
  },
});

/** A newer file of the same prop: where its foot, front, size and snap points are stays as it was set. */
export const replacePropMesh = command<{ id: string; mesh: MeshRef; settings: PropSettings }>({
  apply: (scene, { id, mesh, settings }) => void Object.assign(findProp(scene, id), { mesh, ...settings }),
  name: (before, _, { id }) => `replace the mesh of “${findProp(before, id).name}”`,
});

/** Puts the props of one group in the place of those of another wherever these are placed, in turn; both stay. */
export const replaceGroup = patching<{ ids: string[]; by: string[]; name: string }>({
  patches(scene, { ids, by }) {
    let { arrangements } = scene;
    ids.forEach((id, i) => {
      arrangements = arrangements.map((a) => withPropReplaced(a, id, by[i % by.length]));
    });
    return patchesBetween(scene, { ...scene, arrangements });
  },
  name: (_, __, { name, ids }) => `“${name}” for ${ids.length} props everywhere`,
});

/** Puts one prop in the place of another wherever that is placed; both stay in the basket. */
export const replaceProp = patching<{ id: string; by: string }>({
  patches(scene, { id, by }) {
    const [prop, other] = [findProp(scene, id), findProp(scene, by)];
    const arrangements = scene.arrangements.map((a) => withPropReplaced(a, prop.id, other.id));
    return patchesBetween(scene, { ...scene, arrangements });
  },
  name: (before, _, { id, by }) =>
    `“${findProp(before, by).name}” for “${findProp(before, id).name}” everywhere`,
});
