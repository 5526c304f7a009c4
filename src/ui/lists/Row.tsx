'use client';

import clsx from 'clsx';
import { Eye, EyeOff } from 'lucide-react';
import type { ReactNode } from 'react';
import { selectNodes, type NodeRef } from '@/store/selection';
import { IconButton } from '../controls/Button';
import { steady } from '../controls/steady';
import { ContextMenu } from '../controls/ContextMenu';
import type { MenuEntry } from '../controls/PlainMenu';
import { menuOf } from '../menus/entries';
import { renameSelected } from '../recipe/renameSelected';
import { pick } from './pick';
import { DROP_MARKS, useRowDrag } from './rowDrag';
import { useIsSelected } from './useIsSelected';

/** What a row is given by its list. */
export interface InList {
  /** The rows of its list as they are now, for what is between it and another. */
  rows: () => readonly NodeRef[];
  inGroup: boolean;
}

interface RowProps extends InList {
  name: string;
  detail: ReactNode;
  color: string;
  node: NodeRef;
  visible: boolean;
  onVisible: () => void;
  onHover?: (over: boolean) => void;
  menu: () => MenuEntry[];
}

/** A node in a list: its thread, its name, what there is to say of it, and whether it is shown. */
export const Row = steady(function Row({
  name,
  detail,
  color,
  node,
  rows,
  inGroup,
  visible,
  onVisible,
  onHover,
  menu,
}: RowProps) {
  const selected = useIsSelected(node);
  const drag = useRowDrag({ nodes: [node], name });
  return (
    <ContextMenu
      name={`What can be done with ${name}`}
      entries={() => menuOf(menu)}
      onOpen={() => !selected && selectNodes([node])}
    >
      <li
        ref={drag.ref}
        className={clsx(
          'group my-0.5 mr-1.5 flex items-center rounded-lg border',
          inGroup ? 'ml-4' : 'ml-1.5',
          selected ? 'border-edge bg-card shadow-sm' : 'border-transparent hover:bg-well',
          drag.isDragging && 'opacity-40',
          drag.mark && DROP_MARKS[drag.mark],
        )}
        onPointerEnter={() => onHover?.(true)}
        onPointerLeave={() => onHover?.(false)}
      >
        <button
          type="button"
          aria-current={selected || undefined}
          onPointerDown={drag.onPointerDown}
          onClick={(e) => pick(e, node, rows())}
          onDoubleClick={renameSelected}
          title="Double click or F2 renames it; Shift or Mod takes several; drag it, or Alt with ↑ and ↓, to move it"
          className="flex min-w-0 flex-1 items-center gap-2.5 py-1.5 pl-2 text-left"
        >
          <span className="h-8 w-1 shrink-0 rounded-full" style={{ background: color }} />
          <span className="min-w-0">
            <span className="block truncate text-[13.5px] font-medium leading-tight">{name}</span>
            <span className="flex items-center gap-1 truncate text-[12px] leading-tight text-soft">
              {detail}
            </span>
          </span>
        </button>
        <IconButton
          name={visible ? `Hide ${name}` : `Show ${name}`}
          aria-pressed={!visible}
          onClick={onVisible}
          className="mr-1"
        >
          {visible ? <Eye size={15} className="opacity-65" /> : <EyeOff size={15} />}
        </IconButton>
      </li>
    </ContextMenu>
  );
});
