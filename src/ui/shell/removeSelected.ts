import { kindOf } from '@/core/arrange/registry';
import { slotName } from '@/core/arrange/slotId';
import { correctWithin } from '@/store/commands/within';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { removePoints } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { selectedNodes, stepBack, useSelection } from '@/store/selection';
import { removeThese } from './removeThese';

/** Deletes what is selected: points first, then slots (removed by hand), then the nodes themselves. */
export function removeSelected(): void {
  const { points, slots } = useSelection.getState();
  if (points) return void dispatch(removePoints, { path: points.path, ids: points.ids });
  if (slots) {
    const { arrangement: id, ids, within } = slots;
    if (within) {
      const way = [{ arrangement: id, slot: slotName(ids[0]) }, ...within];
      dispatch(correctWithin, { way, values: { removed: true } });
      return stepBack();
    }
    const found = useDocument.getState().scene.arrangements.find((a) => a.id === id);
    if (!found || !kindOf(found).removeSlots) return undefined;
    return void dispatch(setSlotsRemoved, { id, slots: ids, removed: true });
  }
  const ids = selectedNodes().map((n) => n.id);
  if (ids.length > 0) removeThese(ids);
}
