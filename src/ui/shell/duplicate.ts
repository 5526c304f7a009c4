import type { Arrangement } from '@/core/arrange/registry';
import { duplicateArrangement } from '@/store/commands/arrangements';
import { duplicatePoints } from '@/store/commands/pathEdits';
import { duplicatePath } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectNode, selectPoints, useSelection } from '@/store/selection';
import { uiOf } from '../kinds/registry';

/** Air between what is doubled and its copy, as a share of how wide it is. */
const AIR = 1.2;

/** How far aside the copy of an arrangement lies, so that it is seen: as its widest prop is wide. */
function widthOf(a: Arrangement): number {
  const { arrangements, propBounds } = engine().state.result;
  const wide = (arrangements.get(a.id)?.placements.props ?? []).map((id) => {
    const b = propBounds[id];
    return b ? Math.max(b.max[0] - b.min[0], b.max[2] - b.min[2]) : 0;
  });
  return round(AIR * Math.max(0.1, ...wide));
}

/** The same of a path: a twentieth of its extent. */
function asideOf(path: string): number {
  const { position } = engine().state.result.paths.get(path)?.strokes[0] ?? { position: [] };
  let most = 0;
  for (let o = 0; o < position.length; o += 3)
    most = Math.max(most, Math.abs(position[o] - position[0]), Math.abs(position[o + 2] - position[2]));
  return round(Math.max(0.2, most / 20));
}

const round = (v: number): number => Number(v.toPrecision(2));

/** Doubles the arrangement or path in hand as a whole, and selects the copy beside it. */
export function duplicateNode(): void {
  const { node } = useSelection.getState();
  const a = useDocument.getState().scene.arrangements.find((one) => one.id === node?.id);
  if (a) {
    const made = dispatch(duplicateArrangement, { id: a.id, aside: widthOf(a) });
    if (made) selectArrangement(made);
  }
  if (node?.kind === 'path') {
    const made = dispatch(duplicatePath, { id: node.id, aside: asideOf(node.id) });
    if (made) selectNode('path', made);
  }
}

/** Doubles what is selected, slots and points before the whole that they are of, and selects the copies. */
export function duplicateSelected(): void {
  const { points, slots } = useSelection.getState();
  if (points) {
    const made = dispatch(duplicatePoints, { ...points, aside: asideOf(points.path) });
    if (made) selectPoints(points.path, made.split(' '));
    return;
  }
  const a = useDocument.getState().scene.arrangements.find((one) => one.id === slots?.arrangement);
  const { duplicateSlots } = a ? uiOf(a) : {};
  if (a && slots && duplicateSlots) duplicateSlots(a, slots.ids, widthOf(a));
  else duplicateNode();
}
