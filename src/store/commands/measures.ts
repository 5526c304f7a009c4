import { takeId } from '@/core/scene/defaults';
import { measureSchema, type MeasuredPlace } from '@/core/scene/measureSchema';
import { command } from '../command';
import { freeName } from './find';

/** Commands of measures that are kept in the scene. */

/** Keeps a measure between places: two for a distance, three for an angle. @returns its id */
export const keepMeasure = command<{ places: readonly MeasuredPlace[] }>({
  apply(scene, { places }) {
    const id = takeId(scene, 'measure');
    const title = freeName(scene.measures, places.length === 3 ? 'Angle' : 'Distance');
    scene.measures.push(measureSchema.parse({ id, name: title, places }));
    return id;
  },
  name: (_, after) => `keep the measure “${after.measures.at(-1)!.name}”`,
});

export const removeMeasure = command<{ id: string }>({
  apply: (scene, { id }) => void (scene.measures = scene.measures.filter((m) => m.id !== id)),
  name: (before, _, { id }) => `remove the measure “${before.measures.find((m) => m.id === id)?.name ?? ''}”`,
});
