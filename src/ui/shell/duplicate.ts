import { duplicateArrangement } from '@/store/commands/arrangements';
import { duplicatePath } from '@/store/commands/paths';
import { dispatch } from '@/store/document';
import { selectArrangement, selectNode, useSelection } from '@/store/selection';

/** Doubles the selected arrangement or path, and selects the copy. */
export function duplicateSelected(): void {
  const n = useSelection.getState().node;
  if (n?.kind === 'arrangement') {
    const made = dispatch(duplicateArrangement, { id: n.id });
    if (made) selectArrangement(made);
  }
  if (n?.kind === 'path') {
    const made = dispatch(duplicatePath, { id: n.id });
    if (made) selectNode('path', made);
  }
}
