import type { Scene } from '@/core/scene/schema';
import { addItem, addSheet } from '@/store/commands/sheets';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, useSelection } from '@/store/selection';
import { framePin } from '@/ui/kinds/sheet/frameMove';
import { pickPlace, type SurfacePlace } from '@/view/pick';
import { currentView } from '@/view/handle';
import type { MenuEntry } from '../../controls/PlainMenu';
import { openDialog, say } from '../../uiState';

/** New sheets over surfaces, and single ornaments on them. */

/** The prop in hand, else the first of the basket. */
function propInHand(scene: Scene): string | undefined {
  const { node } = useSelection.getState();
  return node?.kind === 'prop' ? node.id : scene.props[0]?.id;
}

/** Lays a sheet of a prop over a surface, as many as fit, and selects it. */
export function laySheet(surface: string, prop = propInHand(useDocument.getState().scene)): void {
  // In true size the number follows the form: none overlaps where it is narrow.
  const made = dispatch(addSheet, { surface, prop, values: { grid: { follow: true } } });
  if (made) selectArrangement(made);
}

/** A place of the surface that can be seen, as near to the middle of the view as may be. */
function seenPlace(surface: string): SurfacePlace | null {
  const view = currentView();
  if (!view) return null;
  const { width, height } = view.size;
  const spots = Array.from({ length: 81 }, (_, i) => [((i % 9) - 4) / 9, (Math.floor(i / 9) - 4) / 9]);
  spots.sort(([a, b], [c, d]) => a * a + b * b - c * c - d * d);
  for (const [x, y] of spots) {
    const place = pickPlace(view, width * (0.5 + x), height * (0.5 + y));
    if (place?.surface === surface) return place;
  }
  return null;
}

/** Puts one prop onto a surface, bent to it: a flat frame with one item, where the view looks. */
export function layOrnament(surface: string): void {
  const { scene } = useDocument.getState();
  const prop = propInHand(scene);
  if (!prop) return openDialog('library');
  const place = seenPlace(surface);
  if (!place) return say('Turn the view so that the surface can be seen, then try again.');
  const bounds = engine().state.result.propBounds[prop];
  const side = (axis: 0 | 2) =>
    bounds ? Number((2 * Math.max(-bounds.min[axis], bounds.max[axis], 0.05)).toFixed(3)) : 1;
  const [width, height] = [side(0), side(2)];
  const { pin, position, rotation } = framePin(place);
  const made = dispatch(addSheet, {
    surface,
    name: `${scene.props.find((p) => p.id === prop)!.name}, laid on`,
    values: {
      width,
      height,
      over: { kind: 'frame', pin, position, rotation, along: 'normal', reach: 5 },
      grid: { on: false },
      facing: { bend: true },
    },
  });
  if (!made) return;
  dispatch(addItem, { id: made, prop, at: [width / 2, height / 2] });
  selectArrangement(made);
}

export function newSheetEntries(scene: Scene): MenuEntry[] {
  if (scene.surfaces.length === 0)
    return [{ text: 'Sheet: bring in a surface first', run: () => openDialog('bring-in') }];
  return [
    ...scene.surfaces.map((s, i) => ({
      text: s.name,
      run: () => laySheet(s.id),
      ...(i === 0 && { under: 'A sheet of props over' }),
    })),
    ...scene.surfaces.map((s, i) => ({
      text: s.name,
      run: () => layOrnament(s.id),
      ...(i === 0 && { under: 'One prop bent onto' }),
    })),
  ];
}
