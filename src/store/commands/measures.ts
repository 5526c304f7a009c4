import { takeId } from '@/core/scene/defaults';
import { measureSchema, type MeasuredPlace } from '@/core/scene/measureSchema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { freeName } from './find';
import { describeChange } from './naming';

/** Commands of measures that are kept in the scene. */

const byId = (scene: Scene, id: string) => scene.measures.find((m) => m.id === id);

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

/** Names a measure, or shows and hides its dimension line. */
export const setMeasure = command<{ id: string; values: { name?: string; visible?: boolean } }>({
  apply: (scene, { id, values }) => void Object.assign(byId(scene, id) ?? {}, values),
  name(before, _, { id, values }) {
    const measure = byId(before, id);
    return `${measure?.name ?? ''}: ${describeChange(measure ?? {}, values, before.units)}`;
  },
});

export const removeMeasure = command<{ id: string }>({
  apply: (scene, { id }) => void (scene.measures = scene.measures.filter((m) => m.id !== id)),
  name: (before, _, { id }) => `remove the measure “${byId(before, id)?.name ?? ''}”`,
});
