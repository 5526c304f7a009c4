import { needsOf } from '../arrange/registry';
import type { Mask } from '../mesh/mask/schema';
import type { Scene } from '../scene/schema';
import { shownGrounds } from './gathered/takes';
import { groundsOf, stampsAmong } from './plan';
import { surfaceMasks } from './surfaces';

/** Ids of what goes by a mask: arrangements, and surfaces whose deformers do. */
export function usersOfMask(scene: Scene, mask: string): string[] {
  return [
    ...scene.arrangements.filter((a) => needsOf(a).masks?.includes(mask)),
    ...scene.surfaces.filter((s) => surfaceMasks(s).includes(mask)),
  ].map((n) => n.id);
}

/**
 * Ids of the surfaces that a mask is read on: those that what goes by it stands on, those that it deforms, and those
 * that it is painted on; where there are none yet, all that are shown.
 */
export function surfacesOfMask(scene: Scene, mask: Mask): string[] {
  const shown = shownGrounds(scene.surfaces);
  const painted = mask.layers.flatMap((l) => (l.kind === 'painted' && l.surface ? [l.surface] : []));
  const found = [
    ...painted,
    ...scene.arrangements
      .filter((a) => needsOf(a).masks?.includes(mask.id))
      .flatMap((a) => {
        const needs = needsOf(a);
        // What lands on all that is shown is read on its own surfaces first.
        return needs.locks?.length
          ? needs.locks
          : groundsOf(needs, shown, scene.masks, stampsAmong(scene.props));
      }),
    ...scene.surfaces.filter((s) => surfaceMasks(s).includes(mask.id)).map((s) => s.id),
  ];
  const here = [...new Set(found)].filter((id) => scene.surfaces.some((s) => s.id === id));
  return here.length > 0 ? here : shown;
}
