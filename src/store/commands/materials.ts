import { materialSchema, type Material } from '@/core/mesh/materialSchema';
import { takeId } from '@/core/scene/defaults';
import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { command, patching } from '../command';
import { called, freeName } from './find';
import { describeChange } from './naming';

/** Commands of materials that are made by hand, and of what wears them. */

const find = (scene: Scene, id: string): Material => {
  const found = scene.materials.find((m) => m.id === id);
  if (!found) throw new Error(`The scene has no material "${id}".`);
  return found;
};

const LISTS = ['props', 'surfaces', 'arrangements'] as const;

/** What lets nodes wear a material; null: their own look again. */
const wearing = (
  scene: Scene,
  isMeant: (n: { id: string; material?: string | null }) => boolean,
  material: string | null,
) =>
  LISTS.flatMap((list) =>
    scene[list].flatMap((n, i): Patch[] => {
      if (!isMeant(n) || (n.material ?? null) === material) return [];
      const path = [list, i, 'material'];
      // An arrangement that wears none has no such field.
      if (list !== 'arrangements') return [{ op: 'replace', path, value: material }];
      if (material === null) return [{ op: 'remove', path }];
      return [{ op: n.material === undefined ? 'add' : 'replace', path, value: material }];
    }),
  );

/** A new material, which some nodes wear at once. @returns its id */
export const addMaterial = patching<{ values: Partial<Omit<Material, 'id'>>; wornBy?: string[] }>({
  patches(scene, { values, wornBy = [] }) {
    const counter = { nextId: scene.nextId };
    const id = takeId(counter, 'material');
    const name = freeName(scene.materials, values.name ?? 'Material');
    return {
      made: id,
      patches: [
        { op: 'replace', path: ['nextId'], value: counter.nextId },
        {
          op: 'add',
          path: ['materials', scene.materials.length],
          value: materialSchema.parse({ ...values, id, name }),
        },
        ...wearing(scene, (n) => wornBy.includes(n.id), id),
      ],
    };
  },
  name: (_, after) => `new material “${after.materials.at(-1)!.name}”`,
});

export const setMaterial = command<{ id: string; values: Partial<Omit<Material, 'id'>> }>({
  apply: (scene, { id, values }) => void Object.assign(find(scene, id), values),
  name(before, _, { id, values }) {
    const material = find(before, id);
    return `${material.name}: ${describeChange(material, values, before.units, WORDS)}`;
  },
});

/** Takes a material away; whatever wears it has its own look again. */
export const removeMaterial = patching<{ id: string }>({
  patches: (scene, { id }) => [
    ...wearing(scene, (n) => n.material === id, null),
    { op: 'remove', path: ['materials', scene.materials.findIndex((m) => m.id === find(scene, id).id)] },
  ],
  name: (before, _, { id }) => `remove the material “${find(before, id).name}”`,
});

/** Lets props, surfaces and all that arrangements place wear a material; null: their own look. */
export const wear = patching<{ ids: string[]; material: string | null }>({
  patches: (scene, { ids, material }) => wearing(scene, (n) => ids.includes(n.id), material),
  name: (before, _, { ids, material }) =>
    `${called(before, ids)}: ${material === null ? 'own look' : `material “${find(before, material).name}”`}`,
});

const WORDS = {
  color: 'colour',
  roughness: 'roughness',
  metal: 'metal',
  glow: 'glow',
  picture: 'picture',
  repeatU: 'times along u',
  repeatV: 'times along v',
};
