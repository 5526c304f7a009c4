'use client';

import type { Finding, RunFacts } from '@/core/evaluate/result';
import type { Spacing } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { NumberField } from '../../controls/NumberField';
import { Segmented } from '../../controls/Segmented';
import { sentence } from '../../words/findings';
import { spacingNote } from '../../words/phrases';
import type { StepProps } from './RunRecipe';

const MODES = [
  { value: 'pitch', text: 'Pitch', hint: 'A distance from slot to slot' },
  { value: 'count', text: 'Count', hint: 'So many slots, evenly' },
] as const;
const LEFTOVER = [
  { value: 'even', text: 'Even out' },
  { value: 'end', text: 'At end' },
  { value: 'centre', text: 'Centre' },
] as const;
const ENDS = [
  { value: 'included', text: 'At the ends' },
  { value: 'half', text: 'Half in' },
] as const;
const OWN: Finding['kind'][] = [
  'pitch-not-positive',
  'count-not-positive',
  'too-many-slots',
  'no-room',
  'loose-limited',
];

export function SpacingStep(props: StepProps & { facts: RunFacts; slots: number; findings: Finding[] }) {
  const { run, facts } = props;
  const { spacing } = run;
  const scene = useDocument((s) => s.scene);
  const set = (values: Partial<Spacing>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'spacing', values }, key);
  const length = { dimension: 'length' as const, unit: scene.units };
  const problems = props.findings.filter((f) => OWN.includes(f.kind));
  return (
    <>
      <Segmented
        fill
        label="Spacing by"
        value={spacing.mode}
        options={MODES}
        onChange={(mode) => set({ mode })}
      />
      {spacing.mode === 'pitch' ? (
        <>
          <NumberField
            {...length}
            label="Pitch"
            hint="Empty: from the props’ own footprint"
            value={spacing.pitch ?? facts.askedPitch}
            auto={spacing.pitch === null ? `auto ${Number(facts.askedPitch.toFixed(2))}` : undefined}
            step={0.05}
            min={0.001}
            reset={null}
            onChange={(pitch, key) => set({ pitch }, key)}
          />
          <Segmented
            shown
            label="Leftover"
            value={spacing.leftover}
            options={LEFTOVER}
            onChange={(leftover) => set({ leftover })}
          />
        </>
      ) : (
        <>
          <NumberField
            whole
            label="Count"
            value={spacing.count}
            min={1}
            reset={10}
            onChange={(v, key) => set({ count: v ?? 10 }, key)}
          />
          <Segmented
            shown
            label="Ends"
            value={spacing.ends}
            options={ENDS}
            onChange={(ends) => set({ ends })}
          />
        </>
      )}
      <NumberField
        {...length}
        label="Loose by"
        prefix="±"
        value={spacing.looseBy}
        step={0.01}
        min={0}
        reset={0}
        onChange={(v, key) => set({ looseBy: Math.max(0, v ?? 0) }, key)}
      />
      {spacing.looseBy > 0 && (
        <NumberField
          {...length}
          label="Least distance"
          value={spacing.minDistance}
          step={0.05}
          min={0}
          reset={0}
          onChange={(v, key) => set({ minDistance: Math.max(0, v ?? 0) }, key)}
        />
      )}
      <NumberField
        {...length}
        label="Inset at start"
        value={spacing.insetStart}
        step={0.1}
        min={0}
        reset={0}
        onChange={(v, key) => set({ insetStart: Math.max(0, v ?? 0) }, key)}
      />
      <NumberField
        {...length}
        label="Inset at end"
        value={spacing.insetEnd}
        step={0.1}
        min={0}
        reset={0}
        onChange={(v, key) => set({ insetEnd: Math.max(0, v ?? 0) }, key)}
      />
      {problems.map((f) => (
        <p
          key={f.kind}
          role="alert"
          className={`mt-1 text-[12.5px] ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
        >
          {sentence(f, scene)}
        </p>
      ))}
      {!problems.some((f) => f.severity === 'error') && facts.usable > 0 && (
        <p className="mt-1 text-[12.5px] text-soft">{spacingNote(run, facts, props.slots, scene)}</p>
      )}
    </>
  );
}
