import { isDraft, original } from 'immer';
import { hasPoints, type Path, type PathPoint, type PointsPath } from '@/core/curve/schema';
import { has, type Arrangement, type With } from '@/core/arrange/registry';
import type { Mask } from '@/core/mesh/mask/schema';
import type { Prop } from '@/core/mesh/propSchema';
import type { Scene } from '@/core/scene/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';

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
export const findMask = (scene: Scene, id: string): Mask => need(scene.masks, id, 'mask');
export const findArrangement = (scene: Scene, id: string): Arrangement =>
  need(scene.arrangements, id, 'arrangement');
export const findPoint = (path: PointsPath, id: string): PathPoint => need(path.source.points, id, 'point');

/** Every node of a scene, of any sort. */
export const nodesOf = ({ props, paths, surfaces, arrangements, masks }: Scene) => [
  ...props,
  ...paths,
  ...surfaces,
  ...arrangements,
  ...masks,
];

/** What some nodes are called in the undo list: “Quay edge”, or how many they are. */
export function called(scene: Scene, ids: readonly string[]): string {
  const found = nodesOf(scene).filter((n) => ids.includes(n.id));
  return found.length === 1 ? `“${found[0].name}”` : `${found.length} things`;
}

/** A path that has its own points. */
export function findPointsPath(scene: Scene, id: string): PointsPath {
  const path = findPath(scene, id);
  if (!hasPoints(path)) throw new Error(`The path "${id}" has no points of its own.`);
  return path;
}

/** An arrangement that has these blocks of settings; one that has not is a fault of the caller and named. */
export function findWith<B extends string>(scene: Scene, id: string, ...blocks: B[]): With<B> {
  const found = findArrangement(scene, id);
  if (!has(found, ...blocks)) throw new Error(`"${id}" has no ${blocks.join(', ')}.`);
  return found;
}

/** Every arrangement that stands along paths. */
export const alongPaths = (scene: Scene): With<'paths'>[] =>
  scene.arrangements.filter((a) => has(a, 'paths'));

/** `name`, or the first of "name 2", "name 3" … that no node of the list has. */
export function freeName(list: { name: string }[], name: string): string {
  if (!list.some((n) => n.name === name)) return name;
  const stem = name.replace(/ \d+$/, '');
  for (let k = 2; ; k++) if (!list.some((n) => n.name === `${stem} ${k}`)) return `${stem} ${k}`;
}
