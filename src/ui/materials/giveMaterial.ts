import { addMaterial, wear } from '@/store/commands/materials';
import { dispatch, useDocument } from '@/store/document';
import { goToStep } from '../recipe/goToStep';
import { showMaterial } from './shown';
import { MATERIAL_STARTS } from './starts';

/** Lets all that an arrangement places wear a material, the first of the scene or a new one, and opens its step. */
export function giveMaterial(id: string): void {
  const [first] = useDocument.getState().scene.materials;
  if (first) dispatch(wear, { ids: [id], material: first.id });
  else {
    const made = dispatch(addMaterial, { values: MATERIAL_STARTS[0].values, wornBy: [id] });
    if (made) showMaterial(made);
  }
  // The step has to be there first.
  requestAnimationFrame(() => requestAnimationFrame(() => goToStep('Material')));
}
