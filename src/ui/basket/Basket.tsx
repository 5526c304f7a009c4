'use client';

import { useDraggable } from '@dnd-kit/core';
import clsx from 'clsx';
import { Plus } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { useDocument } from '@/store/document';
import { selectNode, useSelection } from '@/store/selection';
import { Button, IconButton } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { propEntries } from '../menus/entries';
import { openDialog } from '../uiState';
import { hangProp } from './hang';
import { PropPicture } from './PropPicture';

/** The props of the scene, as pictures that are dragged onto a path or into an order. */
export function Basket() {
  const props = useDocument((s) => s.scene.props);
  return (
    <section aria-label="Basket" className="flex max-h-[30%] shrink-0 flex-col border-t border-edge">
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
            <BasketItem key={p.id} prop={p} />
          ))}
        </div>
      )}
    </section>
  );
}

function BasketItem({ prop }: { prop: Prop }) {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({
    id: `basket ${prop.id}`,
    data: { prop: prop.id },
  });
  const selected = useSelection((s) => s.node?.kind === 'prop' && s.node.id === prop.id);
  return (
    <ContextMenu
      name={`What can be done with ${prop.name}`}
      entries={() => propEntries(prop)}
      onOpen={() => selectNode('prop', prop.id)}
    >
      <div className="group relative">
        <button
          ref={setNodeRef}
          type="button"
          {...attributes}
          {...listeners}
          aria-label={prop.name}
          title={`${prop.name}: drag onto a path, or press +`}
          onClick={() => selectNode('prop', prop.id)}
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
          onClick={() => hangProp(prop.id)}
          className="absolute right-0.5 top-0.5 hidden size-5 items-center justify-center rounded bg-ink-900 text-linen-50 group-focus-within:flex group-hover:flex"
        >
          <Plus size={13} />
        </button>
      </div>
    </ContextMenu>
  );
}
