'use client';

import { propsOf, type Sheet } from '@/core/arrange/sheet/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import { showDistortion, useView } from '@/view/viewState';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { angleFields, sizeField } from '../../../controls/poseFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { KeepShape } from '../../../recipe/steps/KeepShape';
import { DistortionLegend } from './DistortionLegend';

const SHAPE = [
  { value: 'rigid', text: 'Keeps its shape', hint: 'Each prop as it is, turned to the surface' },
  { value: 'bent', text: 'Bent', hint: 'Each prop follows the surface' },
] as const;
const ALTERNATE = [
  { value: 'none', text: 'None' },
  { value: 'turn', text: 'Turned' },
  { value: 'mirror', text: 'Mirrored' },
] as const;
const FIELDS: FieldSpec[] = [
  {
    name: 'lift',
    label: 'Lift',
    hint: 'Metres off it, along its normal',
    dimension: 'length',
    step: 0.01,
    reset: 0,
  },
  sizeField(),
  ...angleFields(1),
];
const BENT: FieldSpec[] = [
  {
    name: 'relief',
    label: 'Relief',
    hint: 'Heights over the surface',
    dimension: 'percent',
    step: 0.05,
    min: -100,
    max: 100,
    reset: 1,
  },
  {
    name: 'tolerance',
    label: 'To within',
    hint: 'How far faces may lie off the true bend',
    dimension: 'length',
    step: 0.001,
    min: 1e-5,
    max: 1,
    reset: 0.002,
  },
];

/** How the props of a sheet stand on the surface. */
export function SheetFacing({ sheet }: { sheet: Sheet }) {
  const { id, facing } = sheet;
  const distortion = useView((s) => s.distortion);
  const set = (values: Partial<Sheet['facing']>, key?: string) =>
    dispatch(setStep, { id, step: 'facing', values }, key);
  return (
    <>
      <Segmented
        shown
        label="Props are"
        hint="Whether props keep their shape or follow that of the surface"
        value={facing.bend ? 'bent' : 'rigid'}
        options={SHAPE}
        onChange={(shape) => set({ bend: shape === 'bent' })}
      />
      {facing.bend && (
        <KeepShape placed={propsOf(sheet)} rigid={facing.rigid} onChange={(rigid) => set({ rigid })} />
      )}
      <NumberFields fields={facing.bend ? [...FIELDS, ...BENT] : FIELDS} values={facing} set={set} />
      <Segmented
        shown
        tight
        label="Every second"
        hint="Every second prop turned about, or mirrored"
        value={facing.alternate}
        options={ALTERNATE}
        onChange={(alternate) => set({ alternate })}
      />
      <Toggle
        label="Show distortion"
        hint="Colours by how much larger or smaller the surface makes each place of the layout"
        value={distortion}
        onChange={showDistortion}
      />
      {distortion && <DistortionLegend />}
    </>
  );
}
