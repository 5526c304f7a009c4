import { compilePath } from '@/core/curve/compile';
import { freeHandles, insertPoint, reversePoints } from '@/core/curve/edit';
import { newPath, newPoint, takeId } from '@/core/scene/defaults';
import type { Vec3 } from '@/core/math/vec3';
import type { Path, PathPoint } from '@/core/scene/schema';
import { command } from '../command';
import { findPath, findPoint, freeName } from './find';
import { describeChange } from './naming';

/** Commands for paths and their points. */

export const addPath = command<{ name?: string; points: Vec3[]; kind?: PathPoint['kind']; closed?: boolean }>(
  {
    apply(scene, { name = 'Path', points, kind = 'smooth', closed = false }) {
      const id = takeId(scene, 'path');
      const made = points.map((p) => newPoint(takeId(scene, 'pt'), kind, p));
      scene.paths.push(newPath(id, freeName(scene.paths, name), made, closed));
      return id;
    },
    name: () => 'draw path',
  },
);

export const setPath = command<{ id: string; values: Partial<Pick<Path, 'name' | 'closed' | 'visible'>> }>({
  apply: (scene, { id, values }) => void Object.assign(findPath(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findPath(before, id).name}: ${describeChange(findPath(before, id), values)}`,
});

export const reversePath = command<{ id: string }>({
  apply(scene, { id }) {
    const path = findPath(scene, id);
    path.source.points = reversePoints(path.source.points);
  },
  name: (before, _, { id }) => `reverse “${findPath(before, id).name}”`,
});

export const duplicatePath = command<{ id: string }>({
  apply(scene, { id }) {
    const path = findPath(scene, id);
    const copy: Path = JSON.parse(JSON.stringify(path));
    copy.id = takeId(scene, 'path');
    copy.name = freeName(scene.paths, path.name);
    for (const p of copy.source.points) p.id = takeId(scene, 'pt');
    scene.paths.push(copy);
    return copy.id;
  },
  name: (before, _, { id }) => `duplicate “${findPath(before, id).name}”`,
});

/** Removes a path. Runs that stand on it keep the rest of their recipe and ask for another path. */
export const removePath = command<{ id: string }>({
  apply(scene, { id }) {
    scene.paths = scene.paths.filter((p) => p.id !== id);
    for (const a of scene.arrangements) a.paths = a.paths.filter((p) => p.path !== id);
  },
  name: (before, _, { id }) => `remove “${findPath(before, id).name}”`,
});

const pointLabel = (path: Path, id: string) =>
  `point ${path.source.points.findIndex((p) => p.id === id) + 1}`;

export const movePoints = command<{ path: string; to: Record<string, Vec3> }>({
  apply(scene, { path, to }) {
    for (const [id, position] of Object.entries(to))
      findPoint(findPath(scene, path), id).position = [...position];
  },
  name(before, _, { path, to }) {
    const ids = Object.keys(to);
    return ids.length === 1
      ? `move ${pointLabel(findPath(before, path), ids[0])}`
      : `move ${ids.length} points`;
  },
});

export const setPoint = command<{
  path: string;
  id: string;
  values: Partial<Omit<PathPoint, 'id' | 'position'>>;
}>({
  apply: (scene, { path, id, values }) => void Object.assign(findPoint(findPath(scene, path), id), values),
  name(before, _, { path, id, values }) {
    const owner = findPath(before, path);
    return `${pointLabel(owner, id)}: ${describeChange(findPoint(owner, id), values)}`;
  },
});

/** Changes a point's kind; becoming free takes handles that keep the curve as it is. */
export const setPointKind = command<{ path: string; id: string; kind: PathPoint['kind'] }>({
  apply(scene, { path, id, kind }) {
    const owner = findPath(scene, path);
    const point = findPoint(owner, id);
    const compiled = kind === 'free' && point.kind !== 'free' ? compilePath(owner) : null;
    if (compiled?.ok) Object.assign(point, freeHandles(compiled.path, owner.source.points.indexOf(point)));
    point.kind = kind;
  },
  name: (before, _, { path, id, kind }) => `${pointLabel(findPath(before, path), id)} ${kind}`,
});

export const addPointAt = command<{ path: string; s: number; segment: number; t: number }>({
  apply(scene, { path, ...at }) {
    const owner = findPath(scene, path);
    const compiled = compilePath(owner);
    if (!compiled.ok) return undefined;
    const id = takeId(scene, 'pt');
    owner.source.points = insertPoint(owner, compiled.path, at, id).points;
    return id;
  },
  name: (before, _, { path }) => `insert a point in “${findPath(before, path).name}”`,
});

export const removePoints = command<{ path: string; ids: string[] }>({
  apply(scene, { path, ids }) {
    const owner = findPath(scene, path);
    owner.source.points = owner.source.points.filter((p) => !ids.includes(p.id));
  },
  name: (before, _, { path, ids }) =>
    ids.length === 1 ? `delete ${pointLabel(findPath(before, path), ids[0])}` : `delete ${ids.length} points`,
});
