'use client';

import clsx from 'clsx';
import { NumberBox, useNumberScrub, type NumberFieldProps } from './NumberField';

export type PairedField = NumberFieldProps & {
  /** Stands in the box before the number; dragging it changes that. */
  short: string;
};

/** Two or three numbers that belong together, on one line. */
export function NumberPair({ label, fields }: { label: string; fields: readonly PairedField[] }) {
  return (
    <div className="flex min-h-8 items-center gap-1.5" role="group" aria-label={label}>
      <span className="w-[46px] shrink-0 text-sm">{label}</span>
      {fields.map((f) => (
        <PairBox key={f.label} {...f} />
      ))}
    </div>
  );
}

function PairBox({ short, hint, className, ...props }: PairedField) {
  const scrub = useNumberScrub(props);
  const handle = (
    <span
      className="-ml-1 cursor-ew-resize touch-none select-none whitespace-nowrap text-[12px] text-soft"
      onPointerDown={scrub.onPointerDown}
      onDoubleClick={() => props.reset !== undefined && props.onChange(props.reset)}
    >
      {short}
    </span>
  );
  return (
    <span title={hint} className={clsx('min-w-0 flex-1', className)}>
      {/* The unit is that of all lengths; there is no room for it twice. */}
      <NumberBox suffix="" {...props} prefix={handle} className="w-full !px-1.5 [&_input]:min-w-[26px]" />
    </span>
  );
}
