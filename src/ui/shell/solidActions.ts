import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { dustSheetOver, networkOfPaths, selectedBodies, selectedPaths, solidOf } from '../gathered/make';
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

const bodies = (least: number) => () => selectedBodies().length >= least;

export const SOLID_ACTIONS: Action[] = [
  {
    id: 'join-solid',
    title: 'Join what is selected to a solid',
    words: 'union boolean merge fuse weld combine add print watertight body mesh',
    enabled: bodies(1),
    run: () => solidOf(selectedBodies(), 'join'),
  },
  {
    id: 'cut-solid',
    title: 'Cut all else that is selected out of the first',
    words: 'subtract difference boolean carve pierce drill hole engrave minus solid',
    enabled: bodies(1),
    run: () => solidOf(selectedBodies(), 'cut'),
  },
  {
    id: 'keep-solid',
    title: 'Keep of the first what is within all else that is selected',
    words: 'intersect intersection boolean common inside clip trim solid',
    enabled: bodies(1),
    run: () => solidOf(selectedBodies(), 'keep'),
  },
  {
    id: 'network',
    title: 'Make a network of the selected paths',
    words: 'tubes pipes truss frame skeleton wireframe lattice weld union lines grid cage solid',
    enabled: () => selectedPaths().length > 0,
    run: () => networkOfPaths(selectedPaths()),
  },
  {
    id: 'dust-sheet',
    title: 'Let a dust sheet down over what is selected',
    words: 'drape cover cloth wrap snow blanket throw collision surface over',
    enabled: bodies(1),
    run: () => void dustSheetOver(selectedBodies()),
  },
  {
    id: 'thickness',
    title: 'Give the surface thickness',
    words: 'thicken shell solid wall extrude offset inflate print closed watertight depth',
    enabled: () => thin() !== undefined,
    run: () => void giveThickness(thin()!.id),
  },
];
