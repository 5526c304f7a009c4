'use client';

import { useDraggable } from '@dnd-kit/core';
import clsx from 'clsx';
import { Plus } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { useDocument } from '@/store/document';
import { selectNode, type NodeRef } from '@/store/selection';
import { Button, IconButton } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { pick } from '../lists/pick';
import { useIsSelected } from '../lists/useIsSelected';
import { menuOf, propEntries } from '../menus/entries';
import { openDialog } from '../uiState';
import { goingWith, hangProp } from './hang';
import { PropPicture } from './PropPicture';

/** The props of the scene, as pictures that are dragged onto a path or into an order. */
export function Basket() {
  const props = useDocument((s) => s.scene.props);
  const rows = props.map(({ id }): NodeRef => ({ kind: 'prop', id }));
  return (
    <section aria-label="Basket" className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center justify-between px-3 pt-2">
        <h2 className="font-display text-[15px] font-semibold">Basket</h2>
        <IconButton name="Add props" onClick={() => openDialog('library')}>
          <Plus size={17} />
        </IconButton>
      </div>
      {props.length === 0 ? (
        <div className="px-3 pb-3 pt-1 text-sm text-soft">
          <p className="mb-2">No props yet. Take some from the library, or bring in your own .glb.</p>
          <Button look="bordered" onClick={() => openDialog('library')}>
            Open the library
          </Button>
        </div>
      ) : (
        <div className="thin-scroll grid grid-cols-4 gap-1.5 overflow-y-auto px-3 pb-3 pt-1">
          {props.map((p) => (
            <BasketItem key={p.id} prop={p} rows={rows} />
          ))}
        </div>
      )}
    </section>
  );
}

function BasketItem({ prop, rows }: { prop: Prop; rows: readonly NodeRef[] }) {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({
    id: `basket ${prop.id}`,
    data: { prop: prop.id },
  });
  const selected = useIsSelected({ kind: 'prop', id: prop.id });
  return (
    <ContextMenu
      name={`What can be done with ${prop.name}`}
      entries={() => menuOf(() => propEntries(prop))}
      onOpen={() => !selected && selectNode('prop', prop.id)}
    >
      <div className="group relative">
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
