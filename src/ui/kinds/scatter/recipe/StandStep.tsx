'use client';

import type { Scatter } from '@/core/arrange/scatter/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { angleFields, sizeField } from '../../../controls/poseFields';
import { Choice } from '../../../controls/Choice';
import { TargetFields } from '../../../recipe/steps/TargetFields';

const HEADINGS = [
  { value: 'along', text: 'As it lies', hint: 'All fronts one way; on what moves they go with it' },
  { value: 'outward', text: 'Outward', hint: 'Away from the middle of all of them' },
  { value: 'drift', text: 'Drift', hint: 'Neighbours nearly one way, and farther on another: as a flock' },
  { value: 'compass', text: 'Compass' },
  { value: 'target', text: 'Target' },
] as const;
const COMPASS: FieldSpec = {
  name: 'compassDeg',
  label: 'Clockwise from north',
  hint: 'Degrees clockwise from north as seen from above',
  dimension: 'angle',
  step: 5,
  reset: 0,
};
const DRIFT: FieldSpec = {
  name: 'driftSpan',
  label: 'Drift turns over',
  hint: 'Metres over which it turns to another way',
  dimension: 'length',
  step: 0.5,
  min: 0.001,
  max: 1e5,
  reset: 8,
};
const LEAN: FieldSpec = {
  name: 'lean',
  label: 'Lean',
  hint: '0% stands upright, 100% square to the surface',
  dimension: 'percent',
  step: 0.05,
  min: 0,
  max: 1,
  reset: 0,
};
const LIFT: FieldSpec = {
  name: 'lift',
  label: 'Lift',
  hint: 'Metres off their places',
  dimension: 'length',
  step: 0.05,
  reset: 0,
};

/** Which way the props of a scatter face, and how they stand. */
export function StandStep({ scatter }: { scatter: Scatter }) {
  const { id, stand, over } = scatter;
  const set = (values: Partial<Scatter['stand']>, key?: string) =>
    dispatch(setStep, { id, step: 'stand', values }, key);
  return (
    <>
      <Choice
        label="Heading"
        hint="Which way the fronts of the props point"
        value={stand.heading}
        options={HEADINGS}
        onChange={(heading) => set({ heading })}
      />
      {stand.heading === 'target' && <TargetFields id={id} target={stand.target} set={set} />}
      <NumberFields
        fields={[
          ...(stand.heading === 'compass' ? [COMPASS] : []),
          ...(stand.heading === 'drift' ? [DRIFT] : []),
          ...(over.kind === 'surfaces' ? [LEAN] : []),
          LIFT,
          ...angleFields(),
          sizeField(),
        ]}
        values={stand}
        set={set}
      />
    </>
  );
}
