'use client';

import type { Facing } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { NumberField } from '../../controls/NumberField';
import { Segmented } from '../../controls/Segmented';
import type { StepProps } from './RunRecipe';

const HEADINGS = [
  { value: 'along', text: 'Along' },
  { value: 'across', text: 'Across' },
  { value: 'outward', text: 'Outward' },
  { value: 'compass', text: 'Compass' },
] as const;
const POSTURES = [
  { value: 'upright', text: 'Upright', hint: 'Up stays up' },
  { value: 'slope', text: 'Slope', hint: 'Tips with the path, never rolls' },
  { value: 'bank', text: 'Bank', hint: 'Turns with the path like a rope, with the points’ roll' },
] as const;

export function FacingStep({ run }: StepProps) {
  const { facing } = run;
  const unit = useDocument((s) => s.scene.units);
  const set = (values: Partial<Facing>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'facing', values }, key);
  const angle = (label: string, field: 'turnDeg' | 'tipDeg' | 'rollDeg' | 'compassDeg') => (
    <NumberField
      label={label}
      dimension="angle"
      step={5}
      value={facing[field]}
      reset={0}
      onChange={(v, key) => set({ [field]: v ?? 0 }, key)}
    />
  );
  const shift = (label: string, field: 'side' | 'lift', hint: string) => (
    <NumberField
      label={label}
      hint={hint}
      dimension="length"
      unit={unit}
      step={0.05}
      value={facing[field]}
      reset={0}
      onChange={(v, key) => set({ [field]: v ?? 0 }, key)}
    />
  );
  return (
    <>
      <Segmented
        fill
        label="Heading"
        value={facing.heading}
        options={HEADINGS}
        onChange={(heading) => set({ heading })}
      />
      {facing.heading === 'compass' && angle('Clockwise from north', 'compassDeg')}
      <div className="mt-2">
        <Segmented
          fill
          label="Posture"
          value={facing.posture}
          options={POSTURES}
          onChange={(posture) => set({ posture })}
        />
      </div>
      {shift('Side', 'side', 'To the right of the way along; negative is left')}
      {shift('Lift', 'lift', 'Off the path, along the posture’s up')}
      {angle('Turn', 'turnDeg')}
      {angle('Tip', 'tipDeg')}
      {angle('Roll', 'rollDeg')}
      <NumberField
        label="Size"
        dimension="percent"
        step={0.05}
        min={0.01}
        value={facing.size}
        reset={1}
        onChange={(v, key) => set({ size: Math.max(0.001, v ?? 1) }, key)}
      />
    </>
  );
}
