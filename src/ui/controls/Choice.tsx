'use client';

import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { ChevronsUpDown } from 'lucide-react';

interface ChoiceProps<T extends string | number> {
  label: string;
  hint: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
  /** Said where the value is none of the options. */
  none?: string;
  /** Only the button, with the label for screen readers. */
  bare?: boolean;
  /** Where there are buttons beside it. */
  narrow?: boolean;
}

/** One of several, behind a button. */
export function Choice<T extends string | number>(props: ChoiceProps<T>) {
  const { label, value, options, onChange, none, bare } = props;
  const shown = options.find((o) => o.value === value)?.text ?? none ?? String(value);
  const list = (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton
        aria-label={label}
        title={props.hint}
        className={`flex ${props.narrow ? 'w-[122px]' : 'w-[150px]'} items-center justify-between gap-1 rounded-md border border-edge bg-card px-2 py-1 text-left text-sm`}
      >
        <span className="truncate">{shown}</span>
        <ChevronsUpDown size={13} className="shrink-0 text-soft" />
      </ListboxButton>
      <ListboxOptions
        anchor="bottom end"
        modal={false}
        className="z-[60] max-h-72 min-w-[150px] overflow-y-auto rounded-lg border border-edge bg-paper p-1 text-sm shadow-xl outline-none"
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
  );
  if (bare) return list;
  return (
    <div className="flex min-h-8 items-center justify-between gap-3">
      <span className="text-sm" title={props.hint}>
        {label}
      </span>
      {list}
    </div>
  );
}
