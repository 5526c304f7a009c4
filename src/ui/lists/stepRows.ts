import type { KeyboardEvent } from 'react';
import { stepNodes } from '@/store/commands/lists';
import { dispatch, useDocument } from '@/store/document';
import { selectedNodes } from '@/store/selection';

/** Moves what is selected one row up or down in its list. */
export function stepSelected(by: 1 | -1): void {
  const ids = selectedNodes().map((n) => n.id);
  if (ids.length > 0 && !useDocument.getState().readOnly) dispatch(stepNodes, { ids, by });
}

/** In the lists Alt with the arrow keys moves rows. */
export function stepRows(e: KeyboardEvent): void {
  const by = { ArrowUp: -1, ArrowDown: 1 }[e.key] as 1 | -1 | undefined;
  if (!by || !e.altKey || (e.target as HTMLElement).matches('input')) return;
  e.preventDefault();
  stepSelected(by);
}
