'use client';

import { useDraggable, useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { ArrowDown, ArrowUp, CircleDashed, Ellipsis, Group, GripVertical, X } from 'lucide-react';
import { useState } from 'react';
import { has } from '@/core/arrange/registry';
import type { OrderEntry } from '@/core/arrange/steps/schema';
import { groupEntry, moveEntry, removeEntry, setEntry, ungroupEntry } from '@/store/commands/order';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { IconButton } from '../../controls/Button';
import { NumberBox } from '../../controls/NumberField';
import { PlainMenu } from '../../controls/PlainMenu';
import { AddTo } from './AddTo';

interface ListProps {
  run: string;
  entries: OrderEntry[];
  mode: 'pattern' | 'mix';
  /** Whether the path has zones, so that entries may be held to some. */
  zoned: boolean;
  /** The group whose entries these are; null for the order's own. */
  into: string | null;
}

/** The entries of an order or of one of its groups. */
export function EntryList({ run, entries, mode, zoned, into }: ListProps) {
  return (
    <ol className="mt-2" aria-label={into ? 'Entries of the group' : 'Order of the props'}>
      {entries.map((e, i) => (
        <Entry
          key={e.id}
          run={run}
          entry={e}
          index={i}
          last={i === entries.length - 1}
          mode={mode}
          zoned={zoned}
          into={into}
        />
      ))}
    </ol>
  );
}

interface EntryProps extends Omit<ListProps, 'entries'> {
  entry: OrderEntry;
  index: number;
  last: boolean;
}

function Entry({ run, entry, index, last, mode, zoned, into }: EntryProps) {
  const props = useDocument((s) => s.scene.props);
  // Of a grid the zones are its rows.
  const rows = useDocument((s) =>
    has(
      s.scene.arrangements.find((a) => a.id === run),
      'grid',
    ),
  );
  const [zones, setZones] = useState(entry.zones.length > 0);
  const drag = useDraggable({ id: `entry ${entry.id}`, data: { entry: entry.id, run, index, into } });
  const drop = useDroppable({ id: `place ${entry.id}`, data: { run, index, into } });
  const { item } = entry;
  const prop = item.kind === 'prop' ? props.find((p) => p.id === item.prop) : undefined;
  const name =
    item.kind === 'pause' ? 'Pause' : item.kind === 'group' ? 'Group' : (prop?.name ?? 'Missing prop');
  const set = (values: Partial<OrderEntry>, key?: string) =>
    dispatch(setEntry, { id: run, entry: entry.id, values }, key);
  const menu = [
    item.kind === 'group'
      ? { text: 'Take the group apart', run: () => dispatch(ungroupEntry, { id: run, entry: entry.id }) }
      : { text: 'Put into a group', run: () => void dispatch(groupEntry, { id: run, entry: entry.id }) },
    {
      text: `${zones ? 'In all' : 'Only in some'} ${rows ? 'rows' : 'zones'}`,
      run: () => (setZones(!zones), zones && set({ zones: [] })),
    },
    ...(into
      ? [
          {
            text: 'Out of the group',
            run: () => dispatch(moveEntry, { id: run, entry: entry.id, to: 0, into: null }),
          },
        ]
      : []),
  ];
  return (
    <li
      ref={drop.setNodeRef}
      className={clsx(
        'mb-1 rounded-md border border-edge bg-paper',
        drop.isOver && 'ring-2 ring-woad',
        drag.isDragging && 'opacity-40',
      )}
      style={
        drag.transform
          ? { transform: `translateY(${drag.transform.y}px)`, position: 'relative', zIndex: 5 }
          : undefined
      }
    >
      <div className="flex items-center gap-0.5 py-0.5 pr-0.5">
        <span
          ref={drag.setNodeRef}
          {...drag.listeners}
          className="cursor-grab touch-none py-2 pl-1 text-faint"
          aria-hidden
        >
          <GripVertical size={13} />
        </span>
        {item.kind === 'group' ? (
          <Group size={16} className="mx-1.5 shrink-0 text-soft" aria-hidden />
        ) : (
          <PlainMenu
            name={`Swap ${name}`}
            entries={props.map((p) => ({
              text: p.name,
              icon: <PropPicture prop={p} size={22} />,
              run: () => set({ item: { kind: 'prop', prop: p.id } }),
            }))}
          >
            {item.kind === 'pause' ? <CircleDashed size={16} /> : <PropPicture prop={prop} size={26} />}
          </PlainMenu>
        )}
        <span className="min-w-0 flex-1 truncate text-[13px]" title={name}>
          {name}
        </span>
        {mode === 'pattern' || into ? (
          <Times entry={entry} name={name} set={set} />
        ) : (
          <NumberBox
            label={`${name} weight`}
            value={entry.weight}
            step={0.5}
            min={0}
            className="w-14 !px-1.5"
            onChange={(v, key) => set({ weight: Math.max(0, v ?? 0) }, key)}
          />
        )}
        <span className="flex flex-col">
          {([-1, 1] as const).map((way) => (
            <button
              key={way}
              type="button"
              aria-label={`Move ${name} ${way < 0 ? 'up' : 'down'}`}
              title={way < 0 ? 'Earlier in the order' : 'Later in the order'}
              disabled={way < 0 ? index === 0 : last}
              onClick={() => dispatch(moveEntry, { id: run, entry: entry.id, to: index + way })}
              className="text-faint hover:text-text disabled:opacity-25"
            >
              {way < 0 ? <ArrowUp size={11} /> : <ArrowDown size={11} />}
            </button>
          ))}
        </span>
        <PlainMenu name={`More for ${name}`} entries={menu} small>
          <Ellipsis size={14} />
        </PlainMenu>
        <IconButton
          name={`Take ${name} out`}
          className="!size-5"
          onClick={() => dispatch(removeEntry, { id: run, entry: entry.id })}
        >
          <X size={13} />
        </IconButton>
      </div>
      {(zones || (zoned && entry.zones.length > 0)) && (
        <Zones title={rows ? 'Rows' : 'Zones'} entry={entry} name={name} set={set} />
      )}
      {item.kind === 'group' && (
        <GroupBody run={run} group={entry.id} entries={item.entries} mode={mode} zoned={zoned} />
      )}
    </li>
  );
}

function GroupBody({ run, group, entries, mode, zoned }: Omit<ListProps, 'into'> & { group: string }) {
  const { setNodeRef, isOver } = useDroppable({
    id: `group ${group}`,
    data: { run, index: entries.length, into: group },
  });
  return (
    <div
      ref={setNodeRef}
      className={clsx('mb-1 ml-3 mr-1 border-l-2 border-edge pl-1.5', isOver && 'border-woad')}
    >
      <EntryList run={run} entries={entries} mode={mode} zoned={zoned} into={group} />
      <AddTo run={run} into={group} empty={entries.length === 0} />
    </div>
  );
}

type Set = (values: Partial<OrderEntry>, key?: string) => void;

function Times({ entry, name, set }: { entry: OrderEntry; name: string; set: Set }) {
  const [low, high] = entry.times;
  const box = { whole: true, min: 0, max: 10000, className: 'w-9 !px-1' };
  const clamp = (v: number | null) => Math.min(10000, Math.max(0, v ?? 0));
  return (
    <span className="flex items-center gap-0.5 text-xs text-soft">
      ×
      <NumberBox
        {...box}
        label={`${name} times, least`}
        value={low}
        onChange={(v, key) =>
          set({ times: [clamp(v), low === high ? clamp(v) : Math.max(clamp(v), high)] }, key)
        }
      />
      –
      <NumberBox
        {...box}
        label={`${name} times, most`}
        value={high}
        onChange={(v, key) => set({ times: [Math.min(low, clamp(v)), clamp(v)] }, key)}
      />
    </span>
  );
}

/** Zone numbers as text, "1, 2"; none is every zone. */
function Zones({ title, entry, name, set }: { title: string; entry: OrderEntry; name: string; set: Set }) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null) {
      const zones = [...new Set((text.match(/\d+/g) ?? []).map((n) => Math.min(999, Number(n))))];
      set({ zones });
    }
    setText(null);
  };
  return (
    <label className="flex items-center gap-2 px-2 pb-1.5 text-[12.5px] text-soft">
      {title}
      <input
        aria-label={`${name} ${title.toLowerCase()}`}
        title="Numbers of the zones it goes to, with commas; empty: all"
        placeholder="all"
        value={text ?? entry.zones.join(', ')}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === 'Enter' && commit()}
        className="num min-w-0 flex-1 rounded-md border border-edge bg-card px-1.5 py-0.5 text-sm text-text"
      />
    </label>
  );
}
