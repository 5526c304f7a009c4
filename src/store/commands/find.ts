import type { Arrangement, Path, PathPoint, Prop, Scene, Surface } from '@/core/scene/schema';

/** Finds nodes of a scene; a missing one is a fault of the caller and named. */
function need<T extends { id: string }>(list: T[], id: string, what: string): T {
  const found = list.find((n) => n.id === id);
  if (!found) throw new Error(`The scene has no ${what} "${id}".`);
  return found;
}

export const findProp = (scene: Scene, id: string): Prop => need(scene.props, id, 'prop');
export const findPath = (scene: Scene, id: string): Path => need(scene.paths, id, 'path');
export const findSurface = (scene: Scene, id: string): Surface => need(scene.surfaces, id, 'surface');
export const findArrangement = (scene: Scene, id: string): Arrangement =>
  need(scene.arrangements, id, 'arrangement');
export const findPoint = (path: Path, id: string): PathPoint => need(path.source.points, id, 'point');

/** `name`, or the first of "name 2", "name 3" … that no node of the list has. */
export function freeName(list: { name: string }[], name: string): string {
  if (!list.some((n) => n.name === name)) return name;
  const stem = name.replace(/ \d+$/, '');
  for (let k = 2; ; k++) if (!list.some((n) => n.name === `${stem} ${k}`)) return `${stem} ${k}`;
}
