import type { Arrangement } from '@/core/arrange/registry';
import { duplicatePoints } from '@/store/commands/pathEdits';
import { duplicateNodes } from '@/store/commands/nodes';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectedNodes, selectNodes, selectPoints, useSelection, type NodeRef } from '@/store/selection';
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

/** How far aside copies of nodes lie, by id: metres. */
export function asidesOf(nodes: readonly NodeRef[]): Record<string, number> {
  const { arrangements } = useDocument.getState().scene;
  return Object.fromEntries(
    nodes.map(({ kind, id }) => {
      const a = arrangements.find((one) => one.id === id);
      return [id, a ? widthOf(a) : kind === 'path' ? asideOf(id) : 1];
    }),
  );
}

/** Selects what a command made of nodes, in their order. @param made ids, with a space between them */
export function selectMade(nodes: readonly NodeRef[], made: string | undefined): void {
  if (made) selectNodes(made.split(' ').map((id, i) => ({ kind: nodes[i].kind, id })));
}

/** Doubles the nodes in hand as wholes, and selects the copies beside them. */
export function duplicateNode(): void {
  const nodes = selectedNodes();
  if (nodes.length === 0) return;
  selectMade(nodes, dispatch(duplicateNodes, { ids: nodes.map((n) => n.id), aside: asidesOf(nodes) }));
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
