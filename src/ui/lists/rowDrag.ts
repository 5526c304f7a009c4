import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { PointerEventHandler } from 'react';
import { groupNodes, moveNodes } from '@/store/commands/lists';
import { dispatch, useDocument } from '@/store/document';
import { selectedNodes, type NodeRef } from '@/store/selection';
import type { Listed } from './rows';

/** Rows of the lists and pictures of the basket, dragged to another place of their list or into a group. */

/** A row that is dragged or dropped on: one node, or the head of a group. */
export interface RowDrag {
  nodes: readonly NodeRef[];
  /** Of a head its group. */
  head?: string;
  name: string;
}

/** The list of the page that a sort of node stands in. */
const section = ({ kind }: NodeRef): string => (kind === 'surface' ? 'path' : kind);

const listOf = (kind: NodeRef['kind']): readonly Listed[] => {
  const { props, paths, surfaces, arrangements, masks } = useDocument.getState().scene;
  return { prop: props, path: paths, surface: surfaces, arrangement: arrangements, mask: masks }[kind];
};

/** What goes with a row: the others of its list that are selected with it. */
function carried({ nodes, head }: RowDrag): readonly NodeRef[] {
  const selected = selectedNodes().filter((n) => section(n) === section(nodes[0]));
  return head === undefined && selected.some((n) => n.id === nodes[0].id) ? selected : nodes;
}

/** Whether a row that is dragged comes to stand below the one that it is over. */
function goesDown(dragged: RowDrag, onto: RowDrag): boolean {
  const order = listOf(onto.nodes[0].kind).map((n) => n.id);
  return order.indexOf(dragged.nodes[0].id) < order.indexOf(onto.nodes[0].id);
}

/** Puts what is dragged in the place of a row of the same list, or into the group of a head. */
export function dropRow(dragged: RowDrag, onto: RowDrag): void {
  const moving = carried(dragged);
  if (section(moving[0]) !== section(onto.nodes[0]) || moving.some((n) => n.id === onto.nodes[0].id)) return;
  const ids = moving.map((n) => n.id);
  if (onto.head !== undefined && dragged.head === undefined)
    return void dispatch(groupNodes, { ids, group: onto.head });
  const list = listOf(onto.nodes[0].kind);
  const own = list.find((n) => n.id === onto.nodes[0].id);
  if (!own) return;
  // A whole group does not go into another one, but before or behind it.
  const isBlock = dragged.head !== undefined && own.group !== undefined;
  const block = isBlock ? list.filter((n) => n.group === own.group) : [own];
  const behind = list.slice(list.indexOf(block[block.length - 1]) + 1).find((n) => !ids.includes(n.id));
  const before = goesDown(dragged, onto) ? (behind?.id ?? null) : block[0].id;
  dispatch(moveNodes, { ids, before, ...(dragged.head === undefined && { group: own.group ?? '' }) });
}

const idOf = (row: RowDrag): string =>
  row.head === undefined ? row.nodes[0].id : `group ${section(row.nodes[0])} ${row.head}`;

/** Lets a row be dropped on. @returns where what is dragged would come to: `into` is a group */
export function useRowDrop(row: RowDrag) {
  const { setNodeRef, isOver, active } = useDroppable({ id: `onto ${idOf(row)}`, data: { row } });
  const dragged = isOver ? (active?.data.current?.row as RowDrag | undefined) : undefined;
  const takes = dragged && section(dragged.nodes[0]) === section(row.nodes[0]) && idOf(dragged) !== idOf(row);
  const into = row.head !== undefined && dragged?.head === undefined;
  const mark = !takes ? null : into ? 'into' : goesDown(dragged, row) ? 'below' : 'above';
  return { ref: setNodeRef, mark } as const;
}

/** Lets a row be dragged by the pointer and be dropped on; the menu and Alt with the arrow keys move it too. */
export function useRowDrag(row: RowDrag) {
  // A group of the basket is dropped as one mix.
  const mix = row.head !== undefined && row.nodes[0]?.kind === 'prop' ? row.nodes.map((n) => n.id) : [];
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `row ${idOf(row)}`,
    data: { row, ...(mix.length > 0 && { prop: mix[0], others: mix.slice(1) }) },
  });
  const { ref, mark } = useRowDrop(row);
  return {
    ref: (element: HTMLElement | null) => {
      setNodeRef(element);
      ref(element);
    },
    onPointerDown: listeners?.onPointerDown as PointerEventHandler | undefined,
    isDragging,
    mark,
  };
}

/** How a row shows where what is dragged would come to. */
export const DROP_MARKS = {
  into: 'ring-2 ring-woad',
  above: 'shadow-[0_-2px_0_0_var(--color-woad)]',
  below: 'shadow-[0_2px_0_0_var(--color-woad)]',
} as const;
