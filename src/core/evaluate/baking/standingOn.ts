import { needsOf } from '../../arrange/registry';
import type { Scene } from '../../scene/schema';
import { pathNeeds } from '../compileSource';
import { shownGrounds } from '../gathered/takes';
import { groundsOf, stampsAmong } from '../plan';

/** Ids of the shown arrangements that may stand on a surface: by what they land on, or by their paths. */
export function standingOn(scene: Scene, surface: string): string[] {
  const grounds = shownGrounds(scene.surfaces);
  return scene.arrangements.flatMap((a) => {
    if (!a.visible) return [];
    const needs = needsOf(a);
    const on = groundsOf(needs, grounds, scene.masks, stampsAmong(scene.props)).includes(surface);
    const along = needs.paths.some((id) => {
      const path = scene.paths.find((p) => p.id === id);
      return path !== undefined && pathNeeds(path, scene).surfaces.includes(surface);
    });
    return on || along ? [a.id] : [];
  });
}
