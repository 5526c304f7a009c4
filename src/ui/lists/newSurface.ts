import type { SurfaceShape } from '@/core/mesh/make/schema';
import { makeSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { selectNode, useSelection } from '@/store/selection';
import { currentView } from '@/view/handle';
import type { MenuEntry } from '../controls/PlainMenu';
import { openDialog, say } from '../uiState';

/** Every surface that can be made, for menus and the list of commands. */

export const SURFACE_SHAPES: { shape: SurfaceShape['shape']; text: string; paths: 0 | 1 | 2 }[] = [
  { shape: 'plane', text: 'Plane', paths: 0 },
  { shape: 'hills', text: 'Hills', paths: 0 },
  { shape: 'sphere', text: 'Sphere', paths: 0 },
  { shape: 'torus', text: 'Torus', paths: 0 },
  { shape: 'box', text: 'Rounded box', paths: 0 },
  { shape: 'turned', text: 'Turned profile', paths: 1 },
  { shape: 'tube', text: 'Tube along a path', paths: 1 },
  { shape: 'strip', text: 'Strip along a path', paths: 1 },
  { shape: 'swept', text: 'Profile along a path', paths: 1 },
  { shape: 'loft', text: 'Loft between paths', paths: 2 },
];

/** Makes a surface where the view looks, from the path in hand where it needs one, and selects it. */
export function addShapedSurface({ shape, text, paths }: (typeof SURFACE_SHAPES)[number]): void {
  const { scene } = useDocument.getState();
  const { node } = useSelection.getState();
  const held = scene.paths.find((p) => node?.kind === 'path' && p.id === node.id) ?? scene.paths[0];
  if (scene.paths.length < paths)
    return say(
      paths === 1
        ? 'Make a path first; then a surface can be made from it.'
        : 'Make two paths first; then a surface can run from one to the other.',
    );
  const rest = scene.paths.filter((p) => p !== held).slice(0, 1);
  const from = paths === 0 ? [] : paths === 1 ? [held.id] : [held, ...rest].map((p) => p.id);
  const target = currentView()?.target ?? [0, 0, 0];
  const round = (v: number) => Number(v.toFixed(1));
  const id = dispatch(makeSurface, {
    shape,
    name: text,
    from,
    // What is made from paths lies where they do.
    position: paths === 0 ? [round(target[0]), 0, round(target[2])] : undefined,
  });
  if (id) selectNode('surface', id);
  return undefined;
}

export const newSurfaceEntries = (): MenuEntry[] => [
  ...SURFACE_SHAPES.map((s, i) => ({
    text: s.text,
    run: () => addShapedSurface(s),
    ...(i === 0 && { under: 'Surfaces' }),
  })),
  { text: 'Heights from a picture', run: () => openDialog('bring-in') },
];
