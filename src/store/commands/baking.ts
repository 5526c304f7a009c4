import { bakedSchema, type Baked } from '@/core/mesh/bake/bakeSchema';
import { command } from '../command';
import { findSurface } from './find';
import { describeChange } from './naming';

/** Commands for the maps of what lies on surfaces. */

/** Sets how maps are made; where a surface has none it will have some. */
export const setBaked = command<{ id: string; values: Partial<Omit<Baked, 'shown' | 'made' | 'heights'>> }>({
  apply(scene, { id, values }) {
    const surface = findSurface(scene, id);
    surface.baked = { ...(surface.baked ?? bakedSchema.parse({})), ...values };
  },
  name(before, _, { id, values }) {
    const { name, baked } = findSurface(before, id);
    if (!baked) return `maps for “${name}”`;
    const called = { of: 'what is in the maps', maps: 'maps', within: 'places a pixel', margin: 'margin' };
    return `${name}: ${describeChange(baked, values, before.units, called)}`;
  },
});

/** Keeps maps that were made; nothing where they were made for something that is there no more. */
export const keepBaked = command<{ id: string } & Pick<Baked, 'made' | 'heights'>>({
  apply(scene, { id, made, heights }) {
    const { baked } = findSurface(scene, id);
    if (baked) Object.assign(baked, { made, heights });
  },
  name: (before, _, { id }) => `bake what lies on “${findSurface(before, id).name}”`,
});

/** Wears the maps instead of what is in them, or shows that again. */
export const wearBaked = command<{ id: string; shown: boolean }>({
  apply(scene, { id, shown }) {
    const { baked } = findSurface(scene, id);
    if (!baked) return;
    baked.shown = shown;
    for (const a of scene.arrangements) if (baked.of.includes(a.id)) a.visible = !shown;
  },
  name: (before, _, { id, shown }) =>
    shown
      ? `maps instead of what lies on “${findSurface(before, id).name}”`
      : `no maps on “${findSurface(before, id).name}”`,
});

/** Takes the maps off; what was hidden for them is shown again. */
export const dropBaked = command<{ id: string }>({
  apply(scene, { id }) {
    const surface = findSurface(scene, id);
    if (surface.baked?.shown)
      for (const a of scene.arrangements) if (surface.baked.of.includes(a.id)) a.visible = true;
    surface.baked = null;
  },
  name: (before, _, { id }) => `take the maps off “${findSurface(before, id).name}”`,
});
