import { takeId } from '@/core/scene/defaults';
import { takeRecipe } from '@/core/scene/recipes';
import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { called, findArrangement } from './find';

/** Commands of recipes that several arrangements share. */

/** Lets arrangements of one kind share the recipe of the first; those that share one with that already are joined by the rest. */
export const shareRecipe = patching<{ ids: string[] }>({
  patches(scene, { ids }) {
    const [first, ...others] = ids.map((id) => findArrangement(scene, id));
    if (others.some((a) => a.kind !== first.kind))
      throw new Error('Only arrangements of one kind can share a recipe.');
    const counter = { nextId: scene.nextId };
    const recipe = first.recipe ?? takeId(counter, 'recipe');
    const naming = (a: { recipe?: string | undefined }): Patch[] =>
      a.recipe === recipe
        ? []
        : [
            {
              op: a.recipe === undefined ? 'add' : 'replace',
              path: ['arrangements', scene.arrangements.indexOf(a as never), 'recipe'],
              value: recipe,
            },
          ];
    return [
      ...(counter.nextId === scene.nextId
        ? []
        : [{ op: 'replace' as const, path: ['nextId'], value: counter.nextId }]),
      ...others.flatMap((a) => takeRecipe(scene, first, a)),
      ...[first, ...others].flatMap(naming),
    ];
  },
  name: (before, _, { ids }) => `one recipe for ${called(before, ids)}`,
});

/** Those that share the recipe of an arrangement, itself among them. */
export const sharing = ({ arrangements }: Pick<Scene, 'arrangements'>, id: string) => {
  const a = arrangements.find((x) => x.id === id);
  return a?.recipe === undefined
    ? []
    : arrangements.filter((x) => x.recipe === a.recipe && x.kind === a.kind);
};

/** Lets an arrangement go on with a recipe of its own, as it is now. The last one left shares with nobody. */
export const leaveRecipe = patching<{ id: string }>({
  patches(scene, { id }) {
    const all = sharing(scene, id);
    const leaving = all.length <= 2 ? all : all.filter((a) => a.id === id);
    return leaving.map((a) => ({
      op: 'remove',
      path: ['arrangements', scene.arrangements.indexOf(a), 'recipe'],
    }));
  },
  name: (before, _, { id }) => `“${findArrangement(before, id).name}” by its own recipe`,
});
