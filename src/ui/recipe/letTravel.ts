import { needsOf, type Arrangement } from '@/core/arrange/registry';
import { setTravel } from '@/store/commands/travel';
import { dispatch, useDocument } from '@/store/document';
import { goToStep } from './goToStep';

/** Lets an arrangement travel, over what it stands on as far as that is known, and opens the step that says how. */
export function letTravel(a: Arrangement): void {
  const { scene } = useDocument.getState();
  const { surfaces, paths, locks } = needsOf(a);
  const own = [...(locks ?? []), ...(surfaces === 'all' ? [] : surfaces)];
  const surface = own[0] ?? scene.surfaces.find((s) => s.visible)?.id ?? null;
  const path = paths[0] ?? scene.paths[0]?.id ?? null;
  dispatch(setTravel, { id: a.id, values: { on: true, surface, path } });
  // The step has to be there first.
  requestAnimationFrame(() => requestAnimationFrame(() => goToStep('Travel')));
}
