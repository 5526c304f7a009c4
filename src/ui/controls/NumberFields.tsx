'use client';

import { useDocument } from '@/store/document';
import { NumberBox, NumberField } from './NumberField';

/** A number of some settings, as a field. */
export interface FieldSpec {
  name: string;
  label: string;
  hint: string;
  dimension?: 'length' | 'angle' | 'percent';
  step?: number;
  min?: number;
  max?: number;
  whole?: boolean;
  reset: number;
}

/** A length of 0 and more. */
export const lengthField = (name: string, label: string, reset: number, hint: string): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'length',
  step: 0.1,
  min: 0,
  max: 1e6,
  reset,
});

/**
 * The numbers of some settings, one field each, held to their limits.
 * @param within where these settings stand in those of the scope around: there they may follow what other things measure
 */
export function NumberFields({
  fields,
  values,
  set,
  within,
}: {
  fields: FieldSpec[];
  values: object;
  within?: string;
  set: (values: Record<string, number>, key?: string) => void;
}) {
  const unit = useDocument((s) => s.scene.units);
  const hold = (f: FieldSpec, v: number) => Math.min(f.max ?? Infinity, Math.max(f.min ?? -Infinity, v));
  return fields.map((f) => (
    <NumberField
      key={f.name}
      {...f}
      field={within === undefined ? undefined : `${within}${within && '.'}${f.name}`}
      unit={unit}
      value={(values as Record<string, number>)[f.name]}
      onChange={(v, key) => set({ [f.name]: hold(f, v ?? f.reset) }, key)}
    />
  ));
}

type Vec3 = [number, number, number];

/** Three numbers side by side: a place, or a direction. */
export function PlaceField({
  label,
  hint,
  value,
  onChange,
  way,
  shown,
}: {
  label: string;
  hint: string;
  /** A direction: its numbers are no lengths. */
  way?: boolean;
  value: Vec3;
  onChange: (v: Vec3, key?: string) => void;
  /** Its label stands over it, where several are one under the other. */
  shown?: boolean;
}) {
  const unit = useDocument((s) => s.scene.units);
  return (
    <div className="my-1 grid grid-cols-3 gap-1.5" role="group" aria-label={label} title={hint}>
      {shown && <span className="col-span-3 -mb-1 text-[12.5px] text-soft">{label}</span>}
      {(['X', 'Y', 'Z'] as const).map((name, axis) => (
        <NumberBox
          key={name}
          label={`${label} ${name}`}
          prefix={name}
          {...(!way && { dimension: 'length' as const, unit })}
          step={0.1}
          value={value[axis]}
          className="!px-1.5 [&_span:last-child]:hidden"
          onChange={(v, key) =>
            v !== null && onChange(value.map((p, i) => (i === axis ? v : p)) as Vec3, key)
          }
        />
      ))}
    </div>
  );
}
