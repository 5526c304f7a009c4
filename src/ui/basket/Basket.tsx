'use client';

import { useDraggable } from '@dnd-kit/core';
import clsx from 'clsx';
import { Plus, Rows2 } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { useDocument } from '@/store/document';
import { selectNode, type NodeRef } from '@/store/selection';
import { Button, IconButton } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { pick } from '../lists/pick';
import { useIsSelected } from '../lists/useIsSelected';
import { GroupHead } from '../lists/GroupHead';
import { DROP_MARKS, useRowDrop } from '../lists/rowDrag';
import { rowsOf } from '../lists/rows';
import { menuOf, propEntries } from '../menus/entries';
import { openDialog, useUi } from '../uiState';
import { goingWith, hangProp } from './hang';
import { PropPicture } from './PropPicture';

/** The props of the scene, as pictures that are dragged onto a path or into an order. */
export function Basket() {
  const props = useDocument((s) => s.scene.props);
  const folded = useUi((s) => s.foldedGroups);
  const shown = rowsOf(props, folded);
  const refOf = ({ id }: Prop): NodeRef => ({ kind: 'prop', id });
  const rows = shown.flatMap((r) => ('head' in r ? [] : [refOf(r.node)]));
  return (
    <section aria-label="Basket" className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center justify-between px-3 pt-2">
        <h2 className="font-display text-[15px] font-semibold">Basket</h2>
        <span>
          {props.length > 0 && (
            <IconButton name="Line up the props" onClick={() => openDialog('line-up')}>
              <Rows2 size={15} className="rotate-90" />
            </IconButton>
          )}
          <IconButton name="Add props" onClick={() => openDialog('library')}>
            <Plus size={17} />
          </IconButton>
        </span>
      </div>
      {props.length === 0 ? (
        <div className="px-3 pb-3 pt-1 text-sm text-soft">
          <p className="mb-2">No props yet. Take some from the library, or bring in your own .glb.</p>
          <Button
            look="bordered"
            title="Props that ship with Clothesline"
            onClick={() => openDialog('library')}
          >
            Open the library
          </Button>
        </div>
      ) : (
        <div className="thin-scroll grid grid-cols-4 gap-1.5 overflow-y-auto px-3 pb-3 pt-1">
          {shown.map((r) =>
            'head' in r ? (
              <ul key={`group ${r.head}`} className="col-span-4 -mx-1.5">
                <GroupHead group={r.head} members={r.members.map(refOf)} folded={r.folded} />
              </ul>
            ) : (
              <BasketItem key={r.node.id} prop={r.node} rows={rows} />
            ),
          )}
        </div>
      )}
    </section>
  );
}

function BasketItem({ prop, rows }: { prop: Prop; rows: readonly NodeRef[] }) {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({
    id: `basket ${prop.id}`,
    data: { prop: prop.id, row: { nodes: [{ kind: 'prop', id: prop.id }], name: prop.name } },
  });
  const selected = useIsSelected({ kind: 'prop', id: prop.id });
  const drop = useRowDrop({ nodes: [{ kind: 'prop', id: prop.id }], name: prop.name });
  return (
    <ContextMenu
      name={`What can be done with ${prop.name}`}
      entries={() => menuOf(() => propEntries(prop))}
      onOpen={() => !selected && selectNode('prop', prop.id)}
    >
      <div ref={drop.ref} className={clsx('group relative rounded-md', drop.mark && DROP_MARKS[drop.mark])}>
        <button
          ref={setNodeRef}
          type="button"
          {...attributes}
          {...listeners}
          aria-label={prop.name}
          aria-current={selected || undefined}
          title={`${prop.name}: drag onto a path, or press +; Shift or Mod takes several`}
          onClick={(e) => pick(e, { kind: 'prop', id: prop.id }, rows)}
          className={clsx(
            'flex aspect-square w-full touch-none items-center justify-center rounded-md bg-groove/80 hover:bg-groove',
            selected && 'ring-2 ring-woad',
            isDragging && 'opacity-40',
          )}
        >
          <PropPicture prop={prop} size={42} />
        </button>
        <button
          type="button"
          aria-label={`Hang ${prop.name}`}
          title={`Hang “${prop.name}” on the selected path`}
          onClick={() => hangProp(prop.id, undefined, goingWith(prop.id))}
          className="absolute right-0.5 top-0.5 hidden size-5 items-center justify-center rounded bg-ink-900 text-linen-50 group-focus-within:flex group-hover:flex"
        >
          <Plus size={13} />
        </button>
      </div>
    </ContextMenu>
  );
}
