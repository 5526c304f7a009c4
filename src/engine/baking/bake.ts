import { bakeBytes, baking, MOST_BYTES } from '@/core/mesh/bake/baking';
import type { BakeSettings } from '@/core/mesh/bake/bakeSchema';
import { loadTangents } from '@/core/mesh/bake/tangents';
import type { NamedJob } from '@/core/evaluate/baking/job';
import { writeMaps, type WrittenMaps } from '@/core/formats/mapsWrite';

/** Maps of a surface, with the names of the props by their numbers. */
export interface BakedFiles extends WrittenMaps {
  names: string[];
}

/** So long one piece of work is gone on with before anything else is listened to. */
const TURN_MS = 40;

/**
 * Why a surface cannot be baked, as a sentence with what to do; null where it can.
 * @param named null: it is not there, or has no texture coordinates
 */
export function whyNot(named: NamedJob | null, name: string, settings: BakeSettings): string | null {
  if (!named)
    return `“${name}” has no texture coordinates (uv) for maps to lie in. Give it some under Faces: Plane, Round or Sphere.`;
  const bytes = bakeBytes(settings);
  if (bytes > MOST_BYTES)
    return `Maps of ${settings.size} × ${settings.size} pixels would take ${(bytes / 1e9).toFixed(1)} GB while they are made. Choose a smaller size, or fewer of them at once.`;
  return null;
}

/**
 * Bakes in turns with whatever else is asked for meanwhile.
 * @param goesOn asked at each turn: whether it is still wanted @returns null where it is not
 */
export async function bake(
  { job, names }: NamedJob,
  name: string,
  settings: BakeSettings,
  goesOn: () => boolean,
  progress?: (done: number) => void,
): Promise<BakedFiles | null> {
  await loadTangents();
  const work = baking(job, settings);
  for (let began = performance.now(); ;) {
    const step = work.next();
    // Writing them is a tenth of it.
    if (step.done) return { ...writeMaps(step.value, name), names };
    progress?.(step.value * 0.9);
    if (performance.now() - began < TURN_MS) continue;
    await new Promise((done) => setTimeout(done));
    if (!goesOn()) return null;
    began = performance.now();
  }
}
