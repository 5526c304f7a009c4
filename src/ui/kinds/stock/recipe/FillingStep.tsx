'use client';

import type { Stock } from '@/core/arrange/stock/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberFields, lengthField } from '../../../controls/NumberFields';
import { RangeField } from '../../../controls/RangeField';
import { Segmented } from '../../../controls/Segmented';

const BY = [
  { value: 'fit', text: 'What fits', hint: 'As many as there is room for' },
  { value: 'count', text: 'Number', hint: 'Drawn from a range, as far as there is room' },
  { value: 'share', text: 'Share', hint: 'A share of what fits, drawn from a range' },
] as const;
const ALIGN = [
  { value: 'front', text: 'Front' },
  { value: 'centre', text: 'Centre' },
  { value: 'back', text: 'Back' },
] as const;
const LEFTOVER = [
  { value: 'even', text: 'Even out', hint: 'As air between facings' },
  { value: 'end', text: 'At end' },
  { value: 'centre', text: 'Centre' },
] as const;
const AIR = [
  { ...lengthField('air', 'Air between', 0.01, 'Between facings, side by side'), step: 0.005 },
  { ...lengthField('airBehind', 'Air behind', 0.005, 'Between rows, one behind the other'), step: 0.005 },
  { ...lengthField('airAbove', 'Air above', 0.01, 'Stays free under what is above'), step: 0.005 },
  { ...lengthField('setback', 'Set back', 0, 'From the front edge to the fronts'), step: 0.005 },
  { ...lengthField('insetStart', 'Free at the left', 0, 'At the beginning of each edge'), step: 0.01 },
  { ...lengthField('insetEnd', 'Free at the right', 0, 'At the end of each edge'), step: 0.01 },
];

/** How goods fill their shelves: how deep, how high, and the air about them. */
export function FillingStep({ stock }: { stock: Stock }) {
  const { id, filling: f } = stock;
  const set = (values: Partial<Stock['filling']>, key?: string) =>
    dispatch(setStep, { id, step: 'filling', values }, key);
  return (
    <>
      <Amount
        label="Deep"
        hint="How many rows each facing has, drawn by itself for every one"
        by={f.deepBy}
        count={f.deep}
        share={f.deepShare}
        onBy={(deepBy) => set({ deepBy })}
        onCount={(deep, key) => set({ deep }, key)}
        onShare={(deepShare, key) => set({ deepShare }, key)}
      />
      <Amount
        label="High"
        hint="How high each row is stacked, drawn by itself for every one"
        by={f.highBy}
        count={f.high}
        share={f.highShare}
        onBy={(highBy) => set({ highBy })}
        onCount={(high, key) => set({ high }, key)}
        onShare={(highShare, key) => set({ highShare }, key)}
      />
      <Segmented
        shown
        label="Aligned to"
        hint="Where the rows of a facing stand in the depth"
        value={f.align}
        options={ALIGN}
        onChange={(align) => set({ align })}
      />
      <Segmented
        shown
        tight
        label="Leftover"
        hint="What is left of an edge where no further facing fits"
        value={f.leftover}
        options={LEFTOVER}
        onChange={(leftover) => set({ leftover })}
      />
      <LinkScope node={id} at="filling">
        <NumberFields within="" fields={AIR} values={f} set={set} />
      </LinkScope>
    </>
  );
}

interface AmountProps {
  label: string;
  hint: string;
  by: 'fit' | 'count' | 'share';
  count: readonly [number, number];
  share: readonly [number, number];
  onBy: (by: 'fit' | 'count' | 'share') => void;
  onCount: (v: [number, number], key?: string) => void;
  onShare: (v: [number, number], key?: string) => void;
}

function Amount({ label, hint, by, count, share, onBy, onCount, onShare }: AmountProps) {
  const unit = useDocument((s) => s.scene.units);
  return (
    <>
      <Segmented shown tight label={label} hint={hint} value={by} options={BY} onChange={onBy} />
      {by === 'count' && (
        <RangeField
          label={label === 'Deep' ? 'Rows' : 'Stacked'}
          hint={hint}
          unit={unit}
          value={count}
          rest={1}
          track={[1, 12]}
          whole
          min={1}
          max={4095}
          onChange={([a, b], key) => onCount([Math.round(a), Math.round(b)], key)}
        />
      )}
      {by === 'share' && (
        <RangeField
          label={label === 'Deep' ? 'Rows' : 'Stacked'}
          hint={hint}
          unit={unit}
          dimension="percent"
          value={share}
          rest={1}
          track={[0, 1]}
          step={0.05}
          min={0}
          max={1}
          onChange={onShare}
        />
      )}
    </>
  );
}
