import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { giveThickness } from '../recipe/nodes/surface/giveThickness';
import type { Action } from './action';

/** What makes bodies of surfaces. */

/** The surface in hand, if it has no thickness. */
function thin() {
  const { node } = useSelection.getState();
  const { scene, readOnly } = useDocument.getState();
  if (readOnly || node?.kind !== 'surface') return undefined;
  return scene.surfaces.find((s) => s.id === node.id && !s.thickness);
}

export const SOLID_ACTIONS: Action[] = [
  {
    id: 'thickness',
    title: 'Give the surface thickness',
    words: 'thicken shell solid wall extrude offset inflate print closed watertight depth',
    enabled: () => thin() !== undefined,
    run: () => void giveThickness(thin()!.id),
  },
];
