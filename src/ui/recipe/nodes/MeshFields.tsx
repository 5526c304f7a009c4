'use client';

import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { ChevronsUpDown } from 'lucide-react';
import type { Axis } from '@/core/scene/schema';

interface ChoiceProps<T extends string | number> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
}

/** One of several, behind a button. */
export function Choice<T extends string | number>({ label, value, options, onChange }: ChoiceProps<T>) {
  const shown = options.find((o) => o.value === value)?.text ?? String(value);
  return (
    <div className="flex min-h-9 items-center justify-between gap-3">
      <span className="text-sm">{label}</span>
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={label}
          className="flex w-[150px] items-center justify-between rounded-md border border-edge bg-card px-2 py-1 text-sm"
        >
          {shown}
          <ChevronsUpDown size={13} className="text-soft" />
        </ListboxButton>
        <ListboxOptions
          anchor="bottom end"
          className="z-[60] min-w-[150px] rounded-lg border border-edge bg-paper p-1 text-sm shadow-xl outline-none"
        >
          {options.map((o) => (
            <ListboxOption
              key={o.value}
              value={o.value}
              className="cursor-pointer rounded-md px-2 py-1 data-focus:bg-groove data-selected:font-semibold"
            >
              {o.text}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </div>
  );
}

const AXES: { value: Axis; text: string }[] = [
  { value: '+y', text: '+Y' },
  { value: '+z', text: '+Z' },
  { value: '+x', text: '+X' },
  { value: '-y', text: '−Y' },
  { value: '-z', text: '−Z' },
  { value: '-x', text: '−X' },
];

export const AxisField = (p: { label: string; value: Axis; onChange: (axis: Axis) => void; not?: Axis }) => (
  <Choice
    label={p.label}
    value={p.value}
    options={AXES.filter((a) => a.value[1] !== p.not?.[1])}
    onChange={p.onChange}
  />
);

const UNITS = [
  { value: 1, text: 'metres' },
  { value: 0.01, text: 'centimetres' },
  { value: 0.001, text: 'millimetres' },
  { value: 0.0254, text: 'inches' },
  { value: 0.3048, text: 'feet' },
];

/** What one unit of the file is. */
export const UnitField = (p: { value: number; onChange: (scale: number) => void }) => (
  <Choice label="The file is in" value={p.value} options={UNITS} onChange={p.onChange} />
);
