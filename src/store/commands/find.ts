import { isDraft, original } from 'immer';
import type { Run } from '@/core/arrange/run/schema';
import type { Sheet } from '@/core/arrange/sheet/schema';
import {
  hasPoints,
  type Arrangement,
  type Path,
  type PathPoint,
  type PointsPath,
  type Prop,
  type Scene,
  type Surface,
} from '@/core/scene/schema';

/**
 * Finds a node of a scene; a missing one is a fault of the caller and named. A draft of a list makes a draft of each
 * thing that is looked at, so it is looked for in the list as it was; only what the same command has put there, or
 * moved, is not where it was.
 */
function need<T extends { id: string }>(list: T[], id: string, what: string): T {
  const was = isDraft(list) ? (original<unknown>(list) as T[]) : list;
  const at = was.findIndex((n) => n.id === id);
  const found = at >= 0 && list[at]?.id === id ? list[at] : list.find((n) => n.id === id);
  if (!found) throw new Error(`The scene has no ${what} "${id}".`);
  return found;
}

export const findProp = (scene: Scene, id: string): Prop => need(scene.props, id, 'prop');
export const findPath = (scene: Scene, id: string): Path => need(scene.paths, id, 'path');
export const findSurface = (scene: Scene, id: string): Surface => need(scene.surfaces, id, 'surface');
export const findArrangement = (scene: Scene, id: string): Arrangement =>
  need(scene.arrangements, id, 'arrangement');
export const findPoint = (path: PointsPath, id: string): PathPoint => need(path.source.points, id, 'point');

/** A path that has its own points. */
export function findPointsPath(scene: Scene, id: string): PointsPath {
  const path = findPath(scene, id);
  if (!hasPoints(path)) throw new Error(`The path "${id}" has no points of its own.`);
  return path;
}

export function findRun(scene: Scene, id: string): Run {
  const found = findArrangement(scene, id);
  if (found.kind !== 'run') throw new Error(`"${id}" is no run.`);
  return found;
}

/** A run or a sheet: what has an order, variation, a seed, and corrections by hand. */
export function findOrdered(scene: Scene, id: string): Run | Sheet {
  const found = findArrangement(scene, id);
  if (found.kind !== 'run' && found.kind !== 'sheet') throw new Error(`"${id}" has no order.`);
  return found;
}

/** Every run of the scene. */
export const runsOf = (scene: Scene): Run[] => scene.arrangements.filter((a) => a.kind === 'run');

/** `name`, or the first of "name 2", "name 3" … that no node of the list has. */
export function freeName(list: { name: string }[], name: string): string {
  if (!list.some((n) => n.name === name)) return name;
  const stem = name.replace(/ \d+$/, '');
  for (let k = 2; ; k++) if (!list.some((n) => n.name === `${stem} ${k}`)) return `${stem} ${k}`;
}
