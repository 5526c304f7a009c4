'use client';

import { Shuffle } from 'lucide-react';
import { useState } from 'react';
import type { Variation } from '@/core/arrange/steps/schema';
import { resetStep, setArrangement, setStep } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { Button } from '../../controls/Button';
import { NumberBox, NumberField } from '../../controls/NumberField';
import { RangeField } from '../../controls/RangeField';
import type { StepProps } from './RunRecipe';

export function VariationStep({ run }: StepProps) {
  const v = run.variation;
  const unit = useDocument((s) => s.scene.units);
  const [steps, setSteps] = useState(v.turnStepDeg + v.tipStepDeg + v.rollStepDeg > 0);
  const set = (values: Partial<Variation>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'variation', values }, key);
  const shift = (label: string, field: 'along' | 'side' | 'lift') => (
    <RangeField
      label={label}
      dimension="length"
      unit={unit}
      step={0.01}
      rest={0}
      track={[-1, 1]}
      value={v[field]}
      onChange={(r, key) => set({ [field]: r }, key)}
    />
  );
  const spin = (
    label: string,
    field: 'turnDeg' | 'tipDeg' | 'rollDeg',
    stepField: 'turnStepDeg' | 'tipStepDeg' | 'rollStepDeg',
  ) => (
    <>
      <RangeField
        label={label}
        dimension="angle"
        step={1}
        rest={0}
        track={field === 'turnDeg' ? [-180, 180] : [-45, 45]}
        value={v[field]}
        onChange={(r, key) => set({ [field]: r }, key)}
      />
      {steps && (
        <NumberField
          label={`${label} in steps of`}
          dimension="angle"
          step={5}
          min={0}
          value={v[stepField]}
          reset={0}
          onChange={(x, key) => set({ [stepField]: Math.max(0, x ?? 0) }, key)}
        />
      )}
    </>
  );
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <span className="text-sm">Seed</span>
        <NumberBox
          label="Seed"
          whole
          value={run.seed}
          step={1}
          onChange={(seed, key) =>
            seed !== null && dispatch(setArrangement, { id: run.id, values: { seed } }, key)
          }
          className="w-20"
        />
        <Button
          look="bordered"
          className="flex-1"
          onClick={() => dispatch(setArrangement, { id: run.id, values: { seed: run.seed + 1 } })}
        >
          <Shuffle size={14} />
          Next seed
        </Button>
      </div>
      {shift('Along', 'along')}
      {shift('Side', 'side')}
      {shift('Lift', 'lift')}
      {spin('Turn', 'turnDeg', 'turnStepDeg')}
      {spin('Tip', 'tipDeg', 'tipStepDeg')}
      {spin('Roll', 'rollDeg', 'rollStepDeg')}
      <RangeField
        label="Size"
        dimension="percent"
        step={0.01}
        rest={1}
        min={0.01}
        track={[0.5, 1.5]}
        value={v.size}
        onChange={(r, key) => set({ size: r }, key)}
      />
      <div className="mt-1 flex justify-between">
        <Button className="!px-1.5 text-soft" aria-pressed={steps} onClick={() => setSteps(!steps)}>
          {steps ? 'Without steps' : 'Angles in steps'}
        </Button>
        <Button
          className="!px-1.5 text-soft"
          onClick={() => dispatch(resetStep, { id: run.id, step: 'variation' })}
        >
          None
        </Button>
      </div>
    </>
  );
}
