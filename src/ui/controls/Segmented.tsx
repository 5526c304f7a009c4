'use client';

import { Radio, RadioGroup } from '@headlessui/react';
import clsx from 'clsx';
import { dequal } from 'dequal/lite';
import { memo } from 'react';
import { useLatest } from './useLatest';

export interface SegmentedProps<T extends string> {
  label: string;
  /** What is chosen, in plain words: the line on hover where an option has none of its own. */
  hint: string;
  /** Null: several things differ in it, and none is marked. */
  value: T | null;
  options: readonly { value: T; text: string; hint?: string }[];
  onChange: (value: T) => void;
  /** The label stands before the choices. */
  shown?: boolean;
  fill?: boolean;
  /** Less air at the sides of each, where there are many. */
  tight?: boolean;
  dark?: boolean;
}

/** A few choices side by side. */
export function Segmented<T extends string>(props: SegmentedProps<T>) {
  const onChange = useLatest(props.onChange) as (value: string) => void;
  return <Choices {...props} onChange={onChange} />;
}

/** Left as it is while something else is dragged. */
const Choices = memo(function Choices({
  label,
  hint,
  value,
  options,
  onChange,
  shown,
  fill,
  tight,
  dark,
}: SegmentedProps<string>) {
  return (
    <div className={clsx('flex items-center justify-between gap-3', shown && 'min-h-8')} title={hint}>
      {shown && <span className="text-sm">{label}</span>}
      <RadioGroup
        aria-label={label}
        value={value ?? undefined}
        onChange={onChange}
        className={clsx('flex rounded-md', dark ? 'gap-0.5' : 'bg-groove p-[3px]', fill && 'w-full')}
      >
        {options.map((o) => (
          <Radio
            key={o.value}
            value={o.value}
            title={o.hint}
            className={clsx(
              'cursor-pointer whitespace-nowrap rounded-[5px] py-1 text-center text-[12.5px] select-none',
              tight ? 'px-1' : 'px-2',
              fill && 'flex-1',
              dark
                ? 'text-linen-300 hover:text-linen-50 data-checked:bg-ink-700 data-checked:text-linen-50'
                : 'text-soft hover:text-text data-checked:bg-card data-checked:font-medium data-checked:text-text data-checked:shadow-sm',
            )}
          >
            {o.text}
          </Radio>
        ))}
      </RadioGroup>
    </div>
  );
}, dequal);
