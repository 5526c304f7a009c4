'use client';

import type { Stock } from '@/core/arrange/stock/schema';
import { setStep } from '@/store/commands/arrangements';
import { letFacingsGo } from '@/store/commands/stock';
import { dispatch, useDocument } from '@/store/document';
import { plural } from '@/words/numbers';
import { Button } from '../../../controls/Button';
import { NumberField } from '../../../controls/NumberField';
import { RangeField } from '../../../controls/RangeField';
import { Toggle } from '../../../controls/Toggle';

/** As if customers had been there. */
export function TakenStep({ stock }: { stock: Stock }) {
  const { id, sold, byFacing } = stock;
  const unit = useDocument((s) => s.scene.units);
  const set = (values: Partial<Stock['sold']>, key?: string) =>
    dispatch(setStep, { id, step: 'sold', values }, key);
  const share = {
    unit,
    dimension: 'percent',
    rest: 0,
    track: [0, 1] as [number, number],
    step: 0.05,
    min: 0,
    max: 1,
  } as const;
  const byHand = Object.keys(byFacing).length;
  return (
    <>
      <RangeField
        {...share}
        label="From the front"
        hint="Share of the rows that is gone, drawn for each facing"
        value={sold.front}
        onChange={(front, key) => set({ front }, key)}
      />
      <RangeField
        {...share}
        label="Off the top"
        hint="Share of each stack that is gone, drawn for each"
        value={sold.top}
        onChange={(top, key) => set({ top }, key)}
      />
      <NumberField
        label="Sold out"
        hint="Share of the facings that are empty"
        unit={unit}
        dimension="percent"
        step={0.05}
        min={0}
        max={1}
        value={sold.out}
        reset={0}
        onChange={(v, key) => set({ out: Math.min(1, Math.max(0, v ?? 0)) }, key)}
      />
      <Toggle
        label="Pulled forward"
        hint="What is left stands at the front again"
        value={sold.forward}
        onChange={(forward) => set({ forward })}
      />
      {byHand > 0 && (
        <Button
          look="bordered"
          className="mt-1"
          title="Swaps, depths, heights and sold-out marks of facings go back to what the recipe says"
          onClick={() => dispatch(letFacingsGo, { id })}
        >
          Let {plural(byHand, 'facing')} go
        </Button>
      )}
    </>
  );
}
