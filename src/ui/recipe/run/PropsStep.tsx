'use client';

import { useDraggable, useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { ArrowDown, ArrowUp, CircleDashed, GripVertical, Plus, X } from 'lucide-react';
import type { OrderEntry } from '@/core/arrange/steps/schema';
import { addEntry, moveEntry, removeEntry, setEntry, setStep } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { IconButton } from '../../controls/Button';
import { NumberBox } from '../../controls/NumberField';
import { PlainMenu } from '../../controls/PlainMenu';
import { Segmented } from '../../controls/Segmented';
import { openDialog } from '../../uiState';
import { useEngine } from '@/store/engine';
import { sentence } from '../../words/findings';
import type { StepProps } from './RunRecipe';

const MODES = [
  { value: 'pattern', text: 'Pattern', hint: 'In turn, each as often as it says' },
  { value: 'mix', text: 'Mix', hint: 'Mixed by weight' },
] as const;
const OWN = ['no-props', 'order-empty', 'prop-missing', 'mesh-missing', 'mesh-empty'];

/** Which prop goes in which slot. Entries are dragged into order; props are dropped in from the basket. */
export function PropsStep({ run }: StepProps) {
  const scene = useDocument((s) => s.scene);
  const { entries, mode } = run.order;
  const findings = useEngine((s) => s.result.arrangements.get(run.id)?.findings) ?? [];
  const { setNodeRef, isOver } = useDroppable({
    id: `order ${run.id}`,
    data: { run: run.id, index: entries.length },
  });
  const add = (item: OrderEntry['item']) => dispatch(addEntry, { id: run.id, item });
  return (
    <div ref={setNodeRef} className={clsx('rounded-md', isOver && 'ring-2 ring-woad')}>
      <Segmented
        fill
        label="Order"
        value={mode}
        options={MODES}
        onChange={(m) => dispatch(setStep, { id: run.id, step: 'order', values: { mode: m } })}
      />
      <ol className="mt-2" aria-label="Order of the props">
        {entries.map((e, i) => (
          <Entry key={e.id} run={run.id} entry={e} index={i} last={i === entries.length - 1} mode={mode} />
        ))}
      </ol>
      <div className="mt-1 flex gap-1.5">
        <PlainMenu
          name="Add a prop to the order"
          entries={[
            ...scene.props.map((p) => ({
              text: p.name,
              icon: <PropPicture prop={p} size={22} />,
              run: () => void add({ kind: 'prop' as const, prop: p.id }),
            })),
            { text: 'From the library…', run: () => openDialog('library') },
          ]}
        >
          <Plus size={16} />
        </PlainMenu>
        <IconButton name="Add a rest" onClick={() => void add({ kind: 'rest' })}>
          <CircleDashed size={15} />
        </IconButton>
        {entries.length === 0 && (
          <span className="self-center text-[12.5px] text-soft">Drop a prop here</span>
        )}
      </div>
      {findings
        .filter((f) => OWN.includes(f.kind))
        .map((f, i) => (
          <p key={i} role="alert" className="mt-1 text-[12.5px] text-danger">
            {sentence(f, scene)}
          </p>
        ))}
    </div>
  );
}

function Entry({
  run,
  entry,
  index,
  last,
  mode,
}: {
  run: string;
  entry: OrderEntry;
  index: number;
  last: boolean;
  mode: 'pattern' | 'mix';
}) {
  const props = useDocument((s) => s.scene.props);
  const drag = useDraggable({ id: `entry ${entry.id}`, data: { entry: entry.id, run, index } });
  const drop = useDroppable({ id: `place ${entry.id}`, data: { run, index } });
  const { item } = entry;
  const prop = item.kind === 'prop' ? props.find((p) => p.id === item.prop) : undefined;
  const name = item.kind === 'rest' ? 'Rest' : (prop?.name ?? 'Missing prop');
  const set = (values: Partial<OrderEntry>, key?: string) =>
    dispatch(setEntry, { id: run, entry: entry.id, values }, key);
  const [low, high] = entry.times;
  const box = { whole: true, min: 0, max: 10000, className: 'w-11 !px-1.5' };
  const clamp = (v: number | null) => Math.min(10000, Math.max(0, v ?? 0));
  return (
    <li
      ref={drop.setNodeRef}
      className={clsx(
        'mb-1 flex items-center gap-1 rounded-md border border-edge bg-paper py-0.5 pr-0.5',
        drop.isOver && 'ring-2 ring-woad',
        drag.isDragging && 'opacity-40',
      )}
      style={
        drag.transform
          ? { transform: `translateY(${drag.transform.y}px)`, position: 'relative', zIndex: 5 }
          : undefined
      }
    >
      <span
        ref={drag.setNodeRef}
        {...drag.listeners}
        className="cursor-grab touch-none py-2 pl-1 text-faint"
        aria-hidden
      >
        <GripVertical size={13} />
      </span>
      <PlainMenu
        name={`Swap ${name}`}
        entries={props.map((p) => ({
          text: p.name,
          icon: <PropPicture prop={p} size={22} />,
          run: () => set({ item: { kind: 'prop', prop: p.id } }),
        }))}
      >
        {item.kind === 'rest' ? <CircleDashed size={16} /> : <PropPicture prop={prop} size={26} />}
      </PlainMenu>
      <span className="min-w-0 flex-1 truncate text-[13px]" title={name}>
        {name}
      </span>
      {mode === 'pattern' ? (
        <span className="flex items-center gap-0.5 text-xs text-soft">
          <NumberBox
            {...box}
            prefix="×"
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
      ) : (
        <NumberBox
          label={`${name} weight`}
          value={entry.weight}
          step={0.5}
          min={0}
          className="w-16 !px-1.5"
          onChange={(v, key) => set({ weight: Math.max(0, v ?? 0) }, key)}
        />
      )}
      <span className="flex flex-col">
        <button
          type="button"
          aria-label={`Move ${name} up`}
          disabled={index === 0}
          onClick={() => dispatch(moveEntry, { id: run, entry: entry.id, to: index - 1 })}
          className="text-faint hover:text-text disabled:opacity-25"
        >
          <ArrowUp size={11} />
        </button>
        <button
          type="button"
          aria-label={`Move ${name} down`}
          disabled={last}
          onClick={() => dispatch(moveEntry, { id: run, entry: entry.id, to: index + 1 })}
          className="text-faint hover:text-text disabled:opacity-25"
        >
          <ArrowDown size={11} />
        </button>
      </span>
      <IconButton
        name={`Take ${name} out`}
        className="!size-6"
        onClick={() => dispatch(removeEntry, { id: run, entry: entry.id })}
      >
        <X size={13} />
      </IconButton>
    </li>
  );
}
