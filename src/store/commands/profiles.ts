import { newPath, newPoint, takeId } from '@/core/scene/defaults';
import type { PathPoint } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import { command } from '../command';
import { findSurface, freeName } from './find';

/** A place of a profile: to the right and up, metres, and what kind of point it is. */
export interface ProfilePoint {
  at: [number, number];
  kind: Extract<PathPoint['kind'], 'corner' | 'smooth'>;
}

/**
 * Gives a swept surface a profile of its own: a closed path, upright where the surface begins, hidden in the scene as it
 * is drawn in the flat view.
 */
export const drawProfile = command<{ surface: string; points: readonly ProfilePoint[] }>({
  apply(scene, { surface, points }) {
    const owner = findSurface(scene, surface);
    if (owner.mesh.source !== 'made' || owner.mesh.shape.shape !== 'swept') return undefined;
    const { shape } = owner.mesh;
    const along = scene.paths.find((p) => p.id === shape.path)?.source;
    const [x, y, z]: Vec3 = (along?.kind === 'points' && along.points[0]?.position) || [0, 0, 0];
    const made = newPath(
      takeId(scene, 'path'),
      freeName(scene.paths, 'Profile'),
      points.map(({ at, kind }) => newPoint(takeId(scene, 'pt'), kind, [x + at[0], y + at[1], z])),
      true,
    );
    scene.paths.push({ ...made, visible: false });
    shape.profile = made.id;
    return made.id;
  },
  name: (before, _, { surface }) => `draw the profile of “${findSurface(before, surface).name}”`,
});
