'use client';

import { useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { needsOf } from '@/core/arrange/registry';
import type { Order } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Optional } from '../../controls/Optional';
import { Segmented } from '../../controls/Segmented';
import { Toggle } from '../../controls/Toggle';
import { sentence } from '@/words/findings';
import { AddTo } from './AddTo';
import { EntryList } from './Entries';
import { SpecialPlaces } from './SpecialPlaces';
import type { StepProps } from './stepProps';

const MODES = [
  { value: 'pattern', text: 'Pattern', hint: 'In turn, each as often as it says' },
  { value: 'mix', text: 'Mix', hint: 'Mixed by weight' },
] as const;
const OWN = ['no-props', 'order-empty', 'prop-missing', 'mesh-missing', 'mesh-empty'];

/** Which prop goes in which slot. Entries are dragged into order and into groups; props come in from the basket. */
export function PropsStep({ arrangement: run }: StepProps<'order'>) {
  const scene = useDocument((s) => s.scene);
  const { order } = run;
  const findings = useEngine((s) => s.result.arrangements.get(run.id)?.findings) ?? [];
  const zoned = scene.paths.some(
    (p) =>
      needsOf(run).paths.includes(p.id) &&
      p.source.kind === 'points' &&
      p.source.points.some((pt) => pt.zone > 0),
  );
  const set = (values: Partial<Order>) => dispatch(setStep, { id: run.id, step: 'order', values });
  const { setNodeRef, isOver } = useDroppable({
    id: `order ${run.id}`,
    data: { run: run.id, index: order.entries.length, into: null },
  });
  return (
    <div ref={setNodeRef} className={clsx('rounded-md', isOver && 'ring-2 ring-woad')}>
      <Segmented
        fill
        label="Order"
        hint="How props follow each other"
        value={order.mode}
        options={MODES}
        onChange={(mode) => set({ mode })}
      />
      <EntryList run={run.id} entries={order.entries} mode={order.mode} zoned={zoned} into={null} />
      <AddTo run={run.id} into={null} empty={order.entries.length === 0} />
      {order.mode === 'mix' && (
        <>
          <Toggle
            label="Exact shares"
            hint="Out of a bag that holds each by its weight, instead of each slot for itself"
            value={order.bag}
            onChange={(bag) => set({ bag })}
          />
          <Toggle
            label="No repeats"
            hint="Never the same twice running, where there is a choice"
            value={order.noRepeats}
            onChange={(noRepeats) => set({ noRepeats })}
          />
        </>
      )}
      <Optional
        parts={[
          {
            label: 'Special places',
            hint: 'Other props at the first and last slot, at corners, in every n-th',
            isSet: [order.first, order.last, order.corner, order.every].some((item) => item !== null),
            content: <SpecialPlaces arrangement={run} />,
          },
        ]}
      />
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
