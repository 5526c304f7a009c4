'use client';

import type { Hang, Lies, Wind } from '@/core/curve/hang/schema';
import { liesSchema, windSchema } from '@/core/curve/hang/schema';
import { NumberFields, type FieldSpec } from './NumberFields';
import { Segmented } from './Segmented';
import { SurfacesChoice } from './SurfacesChoice';
import { Toggle } from './Toggle';

const HOW = [
  { value: 'sag', text: 'Sagging', hint: 'Hangs by its own weight' },
  { value: 'taut', text: 'Taut', hint: 'Straight' },
  {
    value: 'stiff',
    text: 'Stiff',
    hint: 'Leaves each end the way that its snap point points, and bends evenly',
  },
] as const;
const BY = [
  { value: 'slack', text: 'Slack', hint: 'Longer than the straight way by a share' },
  { value: 'length', text: 'Length', hint: 'So many metres from end to end along it' },
  { value: 'sag', text: 'Depth', hint: 'How deep it hangs below the line between its ends' },
] as const;
const FIELDS: Record<Hang['by'], FieldSpec> = {
  slack: {
    name: 'slack',
    label: 'Slack',
    hint: 'Longer than the straight way by this share',
    dimension: 'percent',
    step: 0.01,
    min: 0,
    max: 100,
    reset: 0.1,
  },
  length: {
    name: 'length',
    label: 'Length of each',
    hint: 'Metres along the line from end to end',
    dimension: 'length',
    step: 0.1,
    min: 0,
    max: 1e6,
    reset: 7,
  },
  sag: {
    name: 'sag',
    label: 'Hangs down',
    hint: 'Metres below the line between its ends',
    dimension: 'length',
    step: 0.05,
    min: 0,
    max: 1e6,
    reset: 1,
  },
};
const LOOSE: FieldSpec = {
  name: 'loose',
  label: 'Loose by',
  hint: 'Each by chance so much more or less',
  dimension: 'percent',
  step: 0.05,
  min: 0,
  max: 1,
  reset: 0,
};
const LIES: FieldSpec[] = [
  {
    name: 'above',
    label: 'Looks up to',
    hint: 'Metres over the straight way: what is higher is a roof, and not lain on',
    dimension: 'length',
    step: 0.25,
    min: 0,
    max: 1e6,
    reset: 2,
  },
  {
    name: 'clear',
    label: 'Kept above by',
    hint: 'Metres between it and what it lies on: half its thickness',
    dimension: 'length',
    step: 0.005,
    min: 0,
    max: 1000,
    reset: 0,
  },
];
const WIND: FieldSpec[] = [
  {
    name: 'strength',
    label: 'Wind',
    hint: 'Its push on the line: 1 is the line’s own weight, and blows it half way to level',
    step: 0.05,
    min: 0,
    max: 20,
    reset: 0.4,
  },
  {
    name: 'compassDeg',
    label: 'Blows to',
    hint: 'Degrees clockwise from north as seen from above',
    dimension: 'angle',
    step: 5,
    reset: 90,
  },
  {
    name: 'gusts',
    label: 'Gusts',
    hint: 'How much of the wind comes and goes',
    dimension: 'percent',
    step: 0.05,
    min: 0,
    max: 1,
    reset: 0.6,
  },
  {
    name: 'every',
    label: 'Gust to gust',
    hint: 'Seconds, about',
    step: 0.1,
    min: 0.1,
    max: 1000,
    reset: 3,
  },
];

/** How lines hang between their ends: straight, by their weight, or stiff; how far; and the wind in them. */
export function HangFields({
  hang,
  set,
}: {
  hang: Hang;
  set: (values: Partial<Hang>, key?: string) => void;
}) {
  const by = hang.how === 'stiff' && hang.by === 'sag' ? 'slack' : hang.by;
  return (
    <>
      <Segmented
        fill
        label="How it hangs"
        hint="Straight, by its weight, or stiff"
        value={hang.how}
        options={HOW}
        onChange={(how) => set({ how, ...(how === 'stiff' && { by }) })}
      />
      {hang.how !== 'taut' && (
        <>
          <div className="mt-1">
            <Segmented
              fill
              label="How far it hangs"
              hint="What says how long a line is"
              value={by}
              options={hang.how === 'stiff' ? BY.filter((o) => o.value !== 'sag') : BY}
              onChange={(value) => set({ by: value })}
            />
          </div>
          <NumberFields within="" fields={[FIELDS[by], LOOSE]} values={hang} set={set} />
        </>
      )}
      {hang.how !== 'stiff' && (
        <Toggle
          label="Lies on surfaces"
          hint="Where it would go through them it lies on them"
          value={hang.lies !== null}
          onChange={(on) => set({ lies: on ? liesSchema.parse({}) : null })}
        />
      )}
      {hang.how !== 'stiff' && hang.lies && (
        <>
          <SurfacesChoice
            legend="Surfaces to lie on"
            chosen={hang.lies.surfaces}
            onChange={(surfaces) => set({ lies: { ...hang.lies!, surfaces } })}
          />
          <NumberFields
            within="lies"
            fields={LIES}
            values={hang.lies}
            set={(values: Partial<Lies>, key) => set({ lies: { ...hang.lies!, ...values } }, key)}
          />
        </>
      )}
      {hang.how === 'sag' && (
        <Toggle
          label="In the wind"
          hint="Sways with time, what hangs on it too"
          value={hang.wind !== null}
          onChange={(on) => set({ wind: on ? windSchema.parse({}) : null })}
        />
      )}
      {hang.how === 'sag' && hang.wind && (
        <NumberFields
          within="wind"
          fields={WIND}
          values={hang.wind}
          set={(values: Partial<Wind>, key) => set({ wind: { ...hang.wind!, ...values } }, key)}
        />
      )}
    </>
  );
}
