'use client';

import { CircleDashed, Group, Plus } from 'lucide-react';
import type { OrderItem } from '@/core/arrange/steps/schema';
import { addEntry } from '@/store/commands/order';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { IconButton } from '../../controls/Button';
import { PlainMenu } from '../../controls/PlainMenu';
import { openDialog } from '../../uiState';

/** Buttons that put something at the end of the order or of a group. */
export function AddTo({ run, into, empty }: { run: string; into: string | null; empty: boolean }) {
  const props = useDocument((s) => s.scene.props);
  const add = (item: OrderItem) => dispatch(addEntry, { id: run, item, into });
  const where = into ? 'the group' : 'the order';
  return (
    <div className="mt-1 flex gap-1.5">
      <PlainMenu
        name={`Add a prop to ${where}`}
        entries={[
          ...props.map((p) => ({
            text: p.name,
            icon: <PropPicture prop={p} size={22} />,
            run: () => void add({ kind: 'prop' as const, prop: p.id }),
          })),
          { text: 'From the library…', run: () => openDialog('library') },
        ]}
      >
        <Plus size={16} />
      </PlainMenu>
      <IconButton
        name={into ? 'Add a pause to the group' : 'Add a pause'}
        onClick={() => void add({ kind: 'pause' })}
      >
        <CircleDashed size={15} />
      </IconButton>
      <IconButton
        name={into ? 'Add a group to the group' : 'Add a group'}
        onClick={() => void add({ kind: 'group', entries: [] })}
      >
        <Group size={15} />
      </IconButton>
      {empty && <span className="self-center text-[12.5px] text-soft">Drop a prop here</span>}
    </div>
  );
}
