'use client';

import type { AreaFacts } from '@/core/arrange/result';
import type { Scatter, ScatterSpread } from '@/core/arrange/scatter/schema';
import { fitting } from '@/core/mesh/scatter/rounds';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { plural, whole } from '@/words/numbers';
import { NumberField } from '../../../controls/NumberField';
import { RangeField } from '../../../controls/RangeField';
import { Segmented } from '../../../controls/Segmented';
import { MaskChoice } from '../../../masks/MaskChoice';

const HOW = [
  { value: 'even', text: 'Even', hint: 'As far apart as they fit, and without any order' },
  { value: 'loose', text: 'Loose', hint: 'By chance: some near, some far' },
  { value: 'grid', text: 'Rows', hint: 'In rows and columns, seen from above' },
  { value: 'clumps', text: 'Clumps', hint: 'Several about each place' },
] as const;
const AMOUNT = [
  { value: 'distance', text: 'Apart', hint: 'By how far they are from each other' },
  { value: 'number', text: 'Number', hint: 'So many on all of it' },
  { value: 'density', text: 'Per metre', hint: 'So many a square metre; in a volume a cubic one' },
] as const;
const ROWS = [
  { value: 'above', text: 'From above' },
  {
    value: 'uv',
    text: 'By uv',
    hint: 'Along u, one row above the other in v: over walls and round towers too',
  },
] as const;
const STAGGER = [
  { value: 'none', text: 'None' },
  { value: 'brick', text: 'Brick', hint: 'Every second row moved by half a place' },
  { value: 'six', text: 'Six', hint: 'Rows as close as six neighbours lie' },
] as const;

/** How many there are, and how they are spread. */
export function SpreadStep({ scatter, area }: { scatter: Scatter; area: AreaFacts | undefined }) {
  const units = useDocument((s) => s.scene.units);
  const { id, spread } = scatter;
  const count = useEngine((s) => s.result.arrangements.get(id)?.placements.count ?? 0);
  const set = (values: Partial<ScatterSpread>, key?: string) =>
    dispatch(setStep, { id, step: 'spread', values }, key);
  const flat = area?.dimensions !== 3;
  return (
    <>
      <Segmented
        fill
        label="How"
        hint="How places are spread over the area"
        value={spread.how}
        options={HOW}
        onChange={(how) => set({ how })}
      />
      <div className="mt-2">
        <Segmented
          fill
          label="How many"
          hint="What says how many there are"
          value={spread.amount}
          options={AMOUNT}
          // What there is stays about as it is: the new number begins where the old one had come to.
          onChange={(amount) => set({ amount, ...(area && asMany(spread, area, amount)) })}
        />
      </div>
      {spread.amount === 'distance' && (
        <NumberField
          label={spread.how === 'even' ? 'At least apart' : 'Apart'}
          hint="Metres from one to the next; empty: from the props’ own footprint"
          dimension="length"
          unit={units}
          step={0.05}
          min={1e-4}
          max={1e5}
          value={spread.distance ?? area?.distance ?? 1}
          auto={spread.distance === null ? 'auto' : undefined}
          reset={null}
          onChange={(v, key) => set({ distance: v === null ? null : Math.max(1e-4, v) }, key)}
        />
      )}
      {spread.amount === 'number' && (
        <NumberField
          label={spread.how === 'clumps' ? 'Clumps' : 'Number'}
          hint="So many places on all of the area; gaps are some of them"
          whole
          step={10}
          min={0}
          max={4e6}
          value={spread.number}
          reset={200}
          onChange={(v, key) => v !== null && set({ number: v }, key)}
        />
      )}
      {spread.amount === 'density' && (
        <NumberField
          label={flat ? 'Per square metre' : 'Per cubic metre'}
          hint="So many places on each metre of it"
          step={0.5}
          min={0}
          max={1e6}
          value={spread.density}
          reset={1}
          onChange={(v, key) => v !== null && set({ density: v }, key)}
        />
      )}
      <MaskChoice
        label="Only where"
        hint="A mask: what it gives a place is the chance that there is one"
        value={spread.mask}
        onChange={(mask) => set({ mask })}
      />
      {spread.mask !== null && area && (
        <p className="text-[12.5px] text-soft">
          It leaves {whole(count)} of {plural(area.places, 'place')}.
        </p>
      )}
      {spread.how === 'grid' && (
        <>
          {scatter.over.kind === 'surfaces' && (
            <Segmented
              shown
              tight
              label="Rows lie"
              hint="As seen from above, or along the surface’s own u"
              value={spread.rows}
              options={ROWS}
              onChange={(rows) => set({ rows })}
            />
          )}
          <NumberField
            label="Rows turned"
            hint="Degrees that the rows are turned, seen from above"
            dimension="angle"
            step={5}
            value={spread.turnDeg}
            reset={0}
            onChange={(v, key) => set({ turnDeg: v ?? 0 }, key)}
          />
          <Segmented
            shown
            tight
            label="Stagger"
            hint="How every second row is moved"
            value={spread.stagger}
            options={STAGGER}
            onChange={(stagger) => set({ stagger })}
          />
          <NumberField
            label="Loose"
            hint="Each moved by chance, up to so much of half the distance"
            dimension="percent"
            step={0.05}
            min={0}
            max={1}
            value={spread.loose}
            reset={0}
            onChange={(v, key) => set({ loose: v ?? 0 }, key)}
          />
        </>
      )}
      {spread.how === 'clumps' && (
        <>
          <RangeField
            label="In each"
            hint="How many stand about each place, drawn for each"
            whole
            value={spread.each}
            rest={6}
            track={[0, 30]}
            min={0}
            max={200}
            onChange={(each, key) => set({ each }, key)}
          />
          <NumberField
            label="Reach"
            hint="Metres from the middle of a clump to its farthest one"
            dimension="length"
            unit={units}
            step={0.1}
            min={0}
            value={spread.wide}
            reset={1}
            onChange={(v, key) => set({ wide: v ?? 1 }, key)}
          />
        </>
      )}
    </>
  );
}

/** The number, or the density, that comes to about as many as there are. */
function asMany(
  { how, amount: before }: ScatterSpread,
  { size, distance, dimensions }: AreaFacts,
  amount: ScatterSpread['amount'],
): Partial<ScatterSpread> {
  // Even ones at a distance are fewer than there are squares of it.
  const even = before === 'distance' && (how === 'even' || how === 'clumps');
  const dense = even ? fitting(1, distance, dimensions) : 1 / distance ** dimensions;
  if (amount === 'number') return { number: Math.max(1, Math.round(dense * size)) };
  return amount === 'density' ? { density: Number(dense.toPrecision(3)) } : {};
}
