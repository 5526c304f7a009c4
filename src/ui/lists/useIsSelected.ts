import { useSelection, type NodeRef } from '@/store/selection';

/** Whether a node is selected, alone or beside others. */
export const useIsSelected = ({ kind, id }: NodeRef): boolean =>
  useSelection(
    (s) =>
      (s.node?.kind === kind && s.node.id === id) || s.beside.some((n) => n.id === id && n.kind === kind),
  );
