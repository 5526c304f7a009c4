'use client';

import clsx from 'clsx';
import { ChevronDown, ChevronRight, Eye, EyeOff } from 'lucide-react';
import { useState } from 'react';
import { renameGroup } from '@/store/commands/lists';
import { showNodes } from '@/store/commands/nodes';
import { dispatch } from '@/store/document';
import { joinNode, selectNodes, type NodeRef } from '@/store/selection';
import { IconButton } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { groupEntries } from '../menus/entries';
import { foldGroup, nameGroup, useUi } from '../uiState';
import { DROP_MARKS, useRowDrag } from './rowDrag';

/** The head of a group: a click takes all of it in hand, a double click or F2 renames it. */
export function GroupHead({
  group,
  members,
  folded,
  visible,
}: {
  group: string;
  members: readonly NodeRef[];
  folded: boolean;
  /** Whether any of it is shown; absent where nothing in it can be hidden. */
  visible?: boolean;
}) {
  const isNamed = useUi((s) => s.namedGroup === group);
  const drag = useRowDrag({ nodes: members, head: group, name: group });
  const ids = members.map((n) => n.id);
  const Chevron = folded ? ChevronRight : ChevronDown;
  return (
    <ContextMenu
      name={`What can be done with the group ${group}`}
      entries={() => groupEntries(group, members)}
      onOpen={() => selectNodes(members)}
    >
      <li
        ref={drag.ref}
        className={clsx(
          'mx-1.5 my-0.5 flex items-center rounded-lg text-[13px] hover:bg-well',
          drag.isDragging && 'opacity-40',
          drag.mark && DROP_MARKS[drag.mark],
        )}
      >
        <IconButton
          name={folded ? `Unfold ${group}` : `Fold ${group}`}
          aria-expanded={!folded}
          onClick={() => foldGroup(group, !folded)}
        >
          <Chevron size={15} />
        </IconButton>
        {!isNamed ? (
          <button
            type="button"
            onPointerDown={drag.onPointerDown}
            onClick={(e) => (e.ctrlKey || e.metaKey ? members.forEach(joinNode) : selectNodes(members))}
            onDoubleClick={() => nameGroup(group)}
            onKeyDown={(e) => {
              if (e.key !== 'F2') return;
              e.preventDefault();
              e.stopPropagation();
              nameGroup(group);
            }}
            title="Takes all of the group in hand; double click or F2 renames it; drag it to move it"
            className="min-w-0 flex-1 truncate py-1 text-left font-semibold"
          >
            {group} <span className="font-normal text-soft">· {members.length}</span>
          </button>
        ) : (
          <GroupName group={group} />
        )}
        {visible !== undefined && (
          <IconButton
            name={visible ? `Hide all of ${group}` : `Show all of ${group}`}
            aria-pressed={!visible}
            onClick={() => dispatch(showNodes, { ids, visible: !visible })}
            className="mr-1"
          >
            {visible ? <Eye size={15} className="opacity-65" /> : <EyeOff size={15} />}
          </IconButton>
        )}
      </li>
    </ContextMenu>
  );
}

/** The name of a group while it is changed. */
function GroupName({ group }: { group: string }) {
  const [text, setText] = useState(group);
  const commit = () => {
    nameGroup(null);
    if (text.trim()) dispatch(renameGroup, { from: group, to: text.trim().slice(0, 200) });
  };
  return (
    <input
      autoFocus
      aria-label={`Name of the group ${group}`}
      title="Enter keeps the name, Escape the one before"
      value={text}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        nameGroup(null);
      }}
      className="min-w-0 flex-1 rounded-md border border-edge bg-card px-1 py-0.5"
    />
  );
}
