import type { GeneratorShape, MeshTake } from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import { addFromMesh, addGenerated } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { selectNode, useSelection } from '@/store/selection';
import { editedPath } from '@/view/edited';
import { chooseTool } from '@/view/viewState';
import { currentView } from '@/view/handle';
import type { MenuEntry } from '../controls/PlainMenu';
import { say } from '../uiState';

/** Every way in which a new path comes into the scene, for menus and the list of commands. */

export const SHAPES: { shape: GeneratorShape; text: string }[] = [
  { shape: 'line', text: 'Line' },
  { shape: 'polyline', text: 'Polyline' },
  { shape: 'circle', text: 'Circle' },
  { shape: 'arc', text: 'Arc' },
  { shape: 'rectangle', text: 'Rounded rectangle' },
  { shape: 'polygon', text: 'Polygon' },
  { shape: 'helix', text: 'Helix' },
  { shape: 'spiral', text: 'Flat spiral' },
  { shape: 'strand', text: 'Strand' },
  { shape: 'coil', text: 'Coil around a path' },
];

/** Makes a generated path where the view looks, and selects it. A coil winds around the path in hand. */
export function addShape(shape: GeneratorShape): void {
  const { paths } = useDocument.getState().scene;
  const around = shape === 'coil' ? (editedPath()?.id ?? paths[0]?.id) : undefined;
  if (shape === 'coil' && !around) return say('Make a path first; then a coil can wind around it.');
  const target = currentView()?.target ?? [0, 0, 0];
  const round = (v: number) => Number(v.toFixed(1));
  const height = shape === 'strand' ? 2 : 0;
  const made = dispatch(addGenerated, {
    shape,
    around,
    position: [round(target[0]), height, round(target[2])],
  });
  if (made) selectNode('path', made);
  return undefined;
}

function take(surface: string, what: MeshTake, name: string): void {
  const made = dispatch(addFromMesh, { surface, take: what, name });
  if (made) selectNode('path', made);
}

/** Takes a path from a surface's mesh. */
export const takesFrom = (surface: { id: string; name: string }): MenuEntry[] => [
  { text: 'Its borders', run: () => take(surface.id, { what: 'borders' }, `${surface.name} border`) },
  {
    text: 'Its sharp edges',
    run: () => take(surface.id, { what: 'edges', angleDeg: 40 }, `${surface.name} edges`),
  },
  { text: 'An edge loop, picked in the scene', run: () => chooseTool('edge') },
  {
    text: 'Lines of constant v',
    run: () =>
      take(surface.id, { what: 'iso', along: 'v', from: 0.5, to: 0.5, count: 1 }, `${surface.name} v line`),
  },
  {
    text: 'Lines of constant u',
    run: () =>
      take(surface.id, { what: 'iso', along: 'u', from: 0.5, to: 0.5, count: 1 }, `${surface.name} u line`),
  },
];

/** The entries of the menu for a new path. */
export function newPathEntries(scene: Scene): MenuEntry[] {
  const node = useSelection.getState().node;
  const surface =
    scene.surfaces.find((s) => node?.kind === 'surface' && s.id === node.id) ?? scene.surfaces[0];
  return [
    { text: 'Draw a path', run: () => chooseTool('draw') },
    ...SHAPES.map(({ shape, text }) => ({ text, run: () => addShape(shape) })),
    ...(surface ? [{ text: 'Edge loop of a surface', run: () => chooseTool('edge') }] : []),
  ];
}
