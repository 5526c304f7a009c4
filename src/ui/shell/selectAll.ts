import { STATE } from '@/core/arrange/result';
import { hasPoints } from '@/core/curve/schema';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNodes, selectPoints, selectSlots, useSelection, type NodeRef } from '@/store/selection';
import { editedPath } from '@/view/edited';

/**
 * Selects all of the sort that is in hand: the placed props of the arrangement that some are selected of, the points of
 * the path that is worked on, or every node of the sort of the one in hand.
 */
export function selectAll(): void {
  const { node, slots } = useSelection.getState();
  const p = slots && engine().state.result.arrangements.get(slots.arrangement)?.placements;
  if (p)
    return selectSlots(
      slots.arrangement,
      [...p.slot].filter((_, i) => p.state[i] === STATE.placed),
    );
  const path = editedPath();
  if (hasPoints(path) && (node?.kind === 'path' || node?.kind === 'arrangement'))
    return selectPoints(
      path.id,
      path.source.points.map((point) => point.id),
    );
  const { scene } = useDocument.getState();
  const kind = node?.kind ?? 'arrangement';
  const lists = {
    arrangement: scene.arrangements,
    path: scene.paths,
    surface: scene.surfaces,
    prop: scene.props,
    mask: scene.masks,
  };
  selectNodes(lists[kind].map(({ id }): NodeRef => ({ kind, id })));
}
