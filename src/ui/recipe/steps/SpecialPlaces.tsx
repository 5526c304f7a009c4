'use client';

import { CircleDashed, Minus } from 'lucide-react';
import type { StepProps } from './stepProps';
import type { Order, SpecialItem } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { NumberBox } from '../../controls/NumberField';
import { PlainMenu } from '../../controls/PlainMenu';

const PLACES = [
  { place: 'first', text: 'First' },
  { place: 'last', text: 'Last' },
  { place: 'corner', text: 'Corners' },
] as const;

/** What stands in the first and last slot, at corners, and in every n-th, whatever the order says. */
export function SpecialPlaces({ arrangement: run }: StepProps<'order'>) {
  const { order } = run;
  const set = (values: Partial<Order>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'order', values }, key);
  const { every } = order;
  return (
    <div className="mt-2 border-t border-edge pt-1.5" role="group" aria-label="Special places">
      <div className="grid grid-cols-3 gap-1.5">
        {PLACES.map(({ place, text }) => (
          <div
            key={place}
            className="flex flex-col items-center rounded-md border border-edge bg-paper py-0.5"
          >
            <ItemPicker name={text} item={order[place]} onChange={(item) => set({ [place]: item })} />
            <span className="text-[11.5px] text-soft">{text}</span>
          </div>
        ))}
      </div>
      <div className="mt-1 flex items-center gap-1.5 text-[12.5px] text-soft">
        <ItemPicker
          name="Every n-th"
          item={every?.item ?? null}
          onChange={(item) => set({ every: item && { n: every?.n ?? 3, from: every?.from ?? 1, item } })}
        />
        <span>in every</span>
        <NumberBox
          label="Every so many slots"
          whole
          min={1}
          value={every?.n ?? 3}
          className="w-11 !px-1.5"
          onChange={(v, key) => every && set({ every: { ...every, n: Math.max(1, v ?? 1) } }, key)}
        />
        <span>from</span>
        <NumberBox
          label="Counted from slot"
          whole
          min={1}
          value={every?.from ?? 1}
          className="w-11 !px-1.5"
          onChange={(v, key) => every && set({ every: { ...every, from: Math.max(1, v ?? 1) } }, key)}
        />
      </div>
    </div>
  );
}

function ItemPicker({
  name,
  item,
  onChange,
}: {
  name: string;
  item: SpecialItem | null;
  onChange: (item: SpecialItem | null) => void;
}) {
  const props = useDocument((s) => s.scene.props);
  const prop = item?.kind === 'prop' ? props.find((p) => p.id === item.prop) : undefined;
  const said =
    item === null ? 'as the order says' : item.kind === 'pause' ? 'pause' : (prop?.name ?? 'missing prop');
  return (
    <PlainMenu
      name={`${name}: ${said}`}
      entries={[
        { text: 'As the order says', run: () => onChange(null) },
        { text: 'Pause', icon: <CircleDashed size={16} />, run: () => onChange({ kind: 'pause' }) },
        ...props.map((p) => ({
          text: p.name,
          icon: <PropPicture prop={p} size={22} />,
          run: () => onChange({ kind: 'prop' as const, prop: p.id }),
        })),
      ]}
    >
      {item === null ? (
        <Minus size={15} />
      ) : item.kind === 'pause' ? (
        <CircleDashed size={16} />
      ) : (
        <PropPicture prop={prop} size={26} />
      )}
    </PlainMenu>
  );
}
