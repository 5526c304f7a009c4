'use client';

import { propsOfOrder, type Facing } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { NumberField } from '../../../controls/NumberField';
import { Optional } from '../../../controls/Optional';
import { RampField } from '../../../controls/RampField';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { KeepShape } from '../../../recipe/steps/KeepShape';
import { TargetFields } from '../../../recipe/steps/TargetFields';
import type { StepProps } from './stepProps';

const HEADINGS = [
  { value: 'along', text: 'Along' },
  { value: 'across', text: 'Across' },
  { value: 'outward', text: 'Outward' },
  { value: 'compass', text: 'Compass' },
  { value: 'target', text: 'Target' },
] as const;
const BANKS = [
  { value: 'up', text: 'Up' },
  { value: 'right', text: 'Right' },
  { value: 'down', text: 'Down' },
  { value: 'left', text: 'Left' },
] as const;
const POSTURES = [
  { value: 'upright', text: 'Upright', hint: 'Up stays up' },
  { value: 'slope', text: 'Slope', hint: 'Tips with the path, never rolls' },
  { value: 'bank', text: 'Bank', hint: 'Turns with the path like a rope, with the points’ roll' },
  {
    value: 'surface',
    text: 'Surface',
    hint: 'Square to the surface that the path lies on; rows lie along it',
  },
] as const;
const FLIPS = [
  { value: 'none', text: 'None' },
  { value: 'turn', text: 'Turn', hint: 'Every second prop is turned about' },
  { value: 'mirror', text: 'Mirror', hint: 'Every second prop is mirrored left to right' },
] as const;

const CORNERS = [
  { value: 'round', text: 'Bent', hint: 'As the bend comes out' },
  { value: 'mitre', text: 'Mitred', hint: 'Cut at each corner, both sides meeting on the mitre' },
] as const;

/** What each of its angles does. */
const ANGLES = {
  turnDeg: 'Degrees about the up axis of each prop',
  turnEachDeg: 'Each prop is turned so many degrees more than the one before',
  tipDeg: 'Degrees about the side axis of each prop',
  rollDeg: 'Degrees about the front axis of each prop',
  compassDeg: 'Degrees clockwise from north as seen from above',
};

export function FacingStep({ run, color }: StepProps) {
  const { facing } = run;
  const unit = useDocument((s) => s.scene.units);
  const set = (values: Partial<Facing>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'facing', values }, key);
  const angle = (label: string, field: keyof typeof ANGLES) => (
    <NumberField
      label={label}
      hint={ANGLES[field]}
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
        tight
        label="Heading"
        hint="Which way the fronts of the props point"
        value={facing.heading}
        options={HEADINGS}
        onChange={(heading) => set({ heading })}
      />
      {facing.heading === 'compass' && angle('Clockwise from north', 'compassDeg')}
      {facing.heading === 'target' && <TargetFields id={run.id} target={facing.target} set={set} />}
      <div className="mt-2">
        <Segmented
          fill
          label="Posture"
          hint="How their up axes stand"
          value={facing.posture}
          options={POSTURES}
          onChange={(posture) => set({ posture })}
        />
      </div>
      {facing.posture === 'bank' && (
        <>
          <Segmented
            shown
            tight
            label="Begins with up"
            hint="Where up is at the beginning of the path, seen along it"
            value={facing.bankFrom}
            options={BANKS}
            onChange={(bankFrom) => set({ bankFrom })}
          />
          <p className="text-[12.5px] text-soft">
            On a loop that stands upright, “Down” turns them to its other side. A point’s own roll adds to it.
          </p>
        </>
      )}
      {facing.posture === 'surface' && (
        <NumberField
          label="Lean"
          hint="100% stands square to the surface, 0% upright"
          dimension="percent"
          step={0.05}
          min={0}
          max={1}
          value={facing.lean}
          reset={1}
          onChange={(v, key) => set({ lean: Math.min(1, Math.max(0, v ?? 1)) }, key)}
        />
      )}
      <Toggle
        label="Bent"
        hint="Props follow the path with their whole mesh instead of standing on it as they are"
        value={facing.bend}
        onChange={(bend) => set({ bend })}
      />
      {facing.bend && (
        <>
          <KeepShape
            placed={propsOfOrder(run.order)}
            rigid={facing.rigid}
            onChange={(rigid) => set({ rigid })}
          />
          <Segmented
            shown
            label="At corners"
            hint="What becomes of bent props at a corner of the path"
            value={facing.corners}
            options={CORNERS}
            onChange={(corners) => set({ corners })}
          />
          {run.spacing.mode === 'touch' && (
            <Toggle
              label="Fill the end"
              hint="What is left at the end takes one more, cut off there"
              value={facing.fill}
              onChange={(fill) => set({ fill })}
            />
          )}
          <NumberField
            label="To within"
            hint="How far faces may lie off the true bend"
            dimension="length"
            unit={unit}
            step={0.001}
            min={0.00001}
            max={1}
            value={facing.tolerance}
            reset={0.002}
            onChange={(v, key) => set({ tolerance: Math.min(1, Math.max(1e-5, v ?? 0.002)) }, key)}
          />
        </>
      )}
      <Optional
        parts={[
          {
            label: 'Side',
            hint: 'To the right of the way along; negative is left',
            isSet: facing.side !== 0,
            content: shift('Side', 'side', 'To the right of the way along; negative is left'),
          },
          {
            label: 'Lift',
            hint: 'Off the path, along the posture’s up',
            isSet: facing.lift !== 0,
            content: shift('Lift', 'lift', 'Off the path, along the posture’s up'),
          },
          {
            label: 'Turn',
            hint: 'All turned about up',
            isSet: facing.turnDeg !== 0,
            content: angle('Turn', 'turnDeg'),
          },
          {
            label: 'Turn more each',
            hint: 'Each prop turned so much further than the one before',
            isSet: facing.turnEachDeg !== 0,
            content: angle('Turn more each', 'turnEachDeg'),
          },
          {
            label: 'Tip',
            hint: 'All tipped forwards or back',
            isSet: facing.tipDeg !== 0,
            content: angle('Tip', 'tipDeg'),
          },
          {
            label: 'Roll',
            hint: 'All rolled to their side',
            isSet: facing.rollDeg !== 0,
            content: angle('Roll', 'rollDeg'),
          },
          {
            label: 'Size',
            hint: 'All larger or smaller',
            isSet: facing.size !== 1,
            content: (
              <NumberField
                label="Size"
                hint="Of its own size"
                dimension="percent"
                step={0.05}
                min={0.01}
                value={facing.size}
                reset={1}
                onChange={(v, key) => set({ size: Math.max(0.001, v ?? 1) }, key)}
              />
            ),
          },
          {
            label: 'Every second',
            hint: 'Every second prop turned about, or mirrored',
            isSet: facing.alternate !== 'none',
            content: (
              <Segmented
                shown
                label="Every second"
                hint="Every second prop turned about, or mirrored"
                value={facing.alternate}
                options={FLIPS}
                onChange={(alternate) => set({ alternate })}
              />
            ),
          },
          {
            label: 'Side along the way',
            hint: 'Added to the side, from the start of the path to its end',
            isSet: facing.sideRamp.length > 0,
            content: (
              <RampField
                label="Side along the way"
                hint="Added to the side, from the start of the path to its end"
                value={facing.sideRamp}
                rest={0}
                range={[-3, 3]}
                step={0.1}
                dimension="length"
                unit={unit}
                color={color}
                onChange={(sideRamp, key) => set({ sideRamp }, key)}
              />
            ),
          },
        ]}
      />
    </>
  );
}
