import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { viewpointSchema, type Viewpoint } from '@/core/scene/viewpointSchema';
import { command } from '../command';
import { freeName } from './find';
import { describeChange } from './naming';

/** Commands of viewpoints. */

const find = (scene: Scene, id: string): Viewpoint => {
  const found = scene.viewpoints.find((v) => v.id === id);
  if (!found) throw new Error(`The scene has no viewpoint "${id}".`);
  return found;
};

/** Keeps a way of looking at the scene. @returns its id */
export const keepViewpoint = command<Partial<Viewpoint> & Pick<Viewpoint, 'eye' | 'aim'>>({
  apply(scene, values) {
    const id = takeId(scene, 'viewpoint');
    const name = freeName(scene.viewpoints, values.name ?? 'View');
    scene.viewpoints.push(viewpointSchema.parse({ ...values, id, name }));
    return id;
  },
  name: (_, after) => `keep the viewpoint “${after.viewpoints.at(-1)!.name}”`,
});

export const setViewpoint = command<{ id: string; values: Partial<Omit<Viewpoint, 'id'>> }>({
  apply: (scene, { id, values }) => void Object.assign(find(scene, id), values),
  name(before, _, { id, values }) {
    const viewpoint = find(before, id);
    return `${viewpoint.name}: ${describeChange(viewpoint, values, before.units, WORDS)}`;
  },
});

export const removeViewpoint = command<{ id: string }>({
  apply: (scene, { id }) => void (scene.viewpoints = scene.viewpoints.filter((v) => v.id !== id)),
  name: (before, _, { id }) => `remove the viewpoint “${find(before, id).name}”`,
});

const WORDS = {
  eye: 'eye',
  aim: 'aim',
  focal: 'focal length',
  aspect: 'aspect',
  focus: 'focus',
};
