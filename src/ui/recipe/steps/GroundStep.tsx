'use client';

import type { Ground } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { Choice } from '../../controls/Choice';
import { NumberField } from '../../controls/NumberField';
import { PlaceField } from '../../controls/NumberFields';
import { RangeField } from '../../controls/RangeField';
import { Segmented } from '../../controls/Segmented';
import { SurfacesChoice } from '../../controls/SurfacesChoice';
import { Toggle } from '../../controls/Toggle';
import type { StepProps } from './stepProps';

const MODES = [
  { value: 'none', text: 'None', hint: 'Stays on the path' },
  { value: 'land', text: 'Land', hint: 'Along a direction onto the surface' },
  { value: 'hug', text: 'Hug', hint: 'To the nearest place of the surface' },
] as const;
const DIRECTIONS = [
  { value: 'down', text: 'straight down' },
  { value: 'path', text: 'against the path’s up' },
  { value: 'prop', text: 'against the prop’s own up' },
  { value: 'typed', text: 'as typed' },
] as const;
const CONTACTS = [
  { value: 'foot', text: 'Foot' },
  { value: 'lowest', text: 'Lowest', hint: 'Its lowest part touches; nothing is in the ground' },
  {
    value: 'footprint',
    text: 'Footprint',
    hint: 'Tilts to where it rests, as a cart on its wheels; nothing is in the ground',
  },
] as const;
const MISSED = [
  { value: 'keep', text: 'Keep', hint: 'Stays where it is' },
  { value: 'floor', text: 'Floor', hint: 'Stands on the floor height' },
  { value: 'leave-out', text: 'Leave out' },
] as const;

/** How an arrangement stands on surfaces. The same for every kind. */
export function GroundStep({ arrangement: { id, ground } }: StepProps<'ground'>) {
  const set = (values: Partial<Ground>, key?: string) =>
    dispatch(setStep, { id, step: 'ground', values }, key);
  const unit = useDocument((s) => s.scene.units);
  const length = (label: string, field: 'above' | 'floor', reset: number, hint: string) => (
    <NumberField
      label={label}
      hint={hint}
      dimension="length"
      unit={unit}
      step={0.1}
      min={field === 'above' ? 0 : undefined}
      value={ground[field]}
      reset={reset}
      onChange={(v, key) => set({ [field]: Math.max(field === 'above' ? 0 : -Infinity, v ?? reset) }, key)}
    />
  );
  const on = ground.mode !== 'none';
  return (
    <>
      <Segmented
        fill
        label="Ground"
        hint="Whether props come down to a surface, or stand as the path has them"
        value={ground.mode}
        options={MODES}
        // What is set to stand on the ground is meant to stand square to it, unless that was changed before.
        onChange={(mode) => set({ mode, ...(mode === 'hug' && ground.mode === 'none' && { lean: 1 }) })}
      />
      {on && (
        <>
          <SurfacesChoice
            legend="Surfaces to stand on"
            chosen={ground.surfaces}
            onChange={(surfaces) => set({ surfaces })}
          />
          {ground.mode === 'land' && (
            <>
              <Choice
                label="Direction"
                hint="Which way they are put down"
                value={ground.direction}
                options={DIRECTIONS}
                onChange={(direction) => set({ direction })}
              />
              {ground.direction === 'typed' && (
                <PlaceField
                  label="Landing direction"
                  hint="The way down: x, y, z"
                  value={ground.typed}
                  onChange={(typed, key) => set({ typed }, key)}
                />
              )}
              {(ground.direction === 'down' || ground.direction === 'typed') && (
                <Toggle
                  label="Stacking"
                  hint="In slot order, each onto those that have landed before it"
                  value={ground.stack}
                  onChange={(stack) => set({ stack })}
                />
              )}
              {length('From above', 'above', 1, 'Ground is looked for from so high over its place')}
            </>
          )}
          <Segmented
            shown
            tight
            label="Touches by"
            hint="What of a prop meets the ground"
            value={ground.contact}
            options={CONTACTS}
            // What rests on its footprint tilts with the ground, unless that was set before.
            onChange={(contact) =>
              set({ contact, ...(contact === 'footprint' && !ground.lean && { lean: 1 }) })
            }
          />
          <NumberField
            label="Lean"
            hint="0 stays as it stood, 100 stands square to the ground"
            dimension="percent"
            step={0.05}
            min={0}
            max={1}
            value={ground.lean}
            reset={0}
            onChange={(v, key) => set({ lean: Math.min(1, Math.max(0, v ?? 0)) }, key)}
          />
          {ground.lean > 0 && (
            <NumberField
              label="Leans at most"
              hint="However steep the ground is, degrees from upright"
              dimension="angle"
              step={5}
              min={0}
              max={180}
              value={ground.leanMaxDeg}
              reset={180}
              onChange={(v, key) => set({ leanMaxDeg: Math.min(180, Math.max(0, v ?? 180)) }, key)}
            />
          )}
          <RangeField
            label="Sink"
            hint="Metres into the ground, each by chance within the range"
            dimension="length"
            unit={unit}
            step={0.01}
            rest={0}
            track={[-0.5, 0.5]}
            value={ground.sink}
            onChange={(sink, key) => set({ sink }, key)}
          />
          <Segmented
            shown
            tight
            label="No ground"
            hint="What becomes of props that find nothing beneath"
            value={ground.missed}
            options={MISSED}
            onChange={(missed) => set({ missed })}
          />
          {ground.missed === 'floor' &&
            length('Floor height', 'floor', 0, 'The height that those go down to which find no ground')}
        </>
      )}
    </>
  );
}
