import { joinNode, selectNodes, selectTo, type NodeRef } from '@/store/selection';

/** What a click on a row takes in hand: it alone, it too (Mod), or all from the one in hand to it (Shift). */
export function pick(
  e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean },
  node: NodeRef,
  rows: readonly NodeRef[],
): void {
  if (e.shiftKey) selectTo(node, rows);
  else if (e.ctrlKey || e.metaKey) joinNode(node);
  else selectNodes([node]);
}
