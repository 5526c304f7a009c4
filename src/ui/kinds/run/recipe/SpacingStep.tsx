'use client';

import { isCarried } from '@/core/curve/schema';
import type { Finding, SpacingFacts } from '@/core/arrange/result';
import type { Rows, Spacing } from '@/core/arrange/steps/schema';
import { setStep } from '@/store/commands/arrangements';
import { setRows } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Choice } from '../../../controls/Choice';
import { showMeasure } from '@/words/measure';
import { NumberField } from '../../../controls/NumberField';
import { NumberPair } from '../../../controls/NumberPair';
import { Optional, type OptionalPart } from '../../../controls/Optional';
import { RampField } from '../../../controls/RampField';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { sentence } from '@/words/findings';
import { spacingNote } from '../../../words/phrases';
import { InsetFields } from './InsetFields';
import type { StepProps } from './stepProps';

const MODES = [
  { value: 'pitch', text: 'Pitch', hint: 'A distance from slot to slot' },
  { value: 'count', text: 'Count', hint: 'So many slots, evenly' },
  { value: 'touch', text: 'Touch', hint: 'End to end by the props’ own length; on bends they sit on chords' },
  { value: 'divide', text: 'Divide', hint: 'At the divisions of the path' },
  { value: 'points', text: 'Points', hint: 'At the path’s own points' },
] as const;
const LEFTOVER = [
  { value: 'even', text: 'Even out' },
  { value: 'end', text: 'At end' },
  { value: 'centre', text: 'Centre' },
] as const;
const ENDS = [
  { value: 'included', text: 'At the ends' },
  { value: 'half', text: 'Half a pitch in', hint: 'The first and the last half a pitch from the ends' },
] as const;
const PER = [
  { value: 'whole', text: 'Whole' },
  { value: 'side', text: 'Side', hint: 'Each side between corners' },
  { value: 'quadrant', text: 'Quadrant', hint: 'Each quarter of the path' },
] as const;
const AT = [
  { value: 'points', text: 'Points' },
  { value: 'corners', text: 'Corners' },
  { value: 'midpoints', text: 'Midpoints' },
] as const;
const SIDES = [
  { value: 'middle', text: 'about the path' },
  { value: 'right', text: 'to the right' },
  { value: 'left', text: 'to the left' },
  { value: 'both', text: 'on both sides' },
  { value: 'alternate', text: 'alternating sides' },
] as const;
const OWN: Finding['kind'][] = [
  'pitch-not-positive',
  'count-not-positive',
  'too-many-slots',
  'no-room',
  'loose-limited',
  'no-corners',
  'length-not-positive',
  'nothing-fits',
];

const MEASURED = [
  {
    value: 'rest',
    text: 'At rest',
    hint: 'On the surface at rest: slots stay on their material while it moves',
  },
  {
    value: 'moving',
    text: 'As it moves',
    hint: 'On the surface as it is: slots come, go and slide while it moves',
  },
] as const;

type SpacingProps = StepProps & { facts: SpacingFacts; slots: number; findings: Finding[] };

export function SpacingStep(props: SpacingProps) {
  const { run, facts } = props;
  const { spacing } = run;
  const scene = useDocument((s) => s.scene);
  const set = (values: Partial<Spacing>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'spacing', values }, key);
  const length = { dimension: 'length' as const, unit: scene.units };
  const problems = props.findings.filter((f) => OWN.includes(f.kind));
  const parts = useEngine((s) => s.result.arrangements.get(run.id)?.parts);
  const carried = run.paths.some(({ path }) => isCarried(scene.paths.find((p) => p.id === path)));
  const [part] = parts ?? [];
  const there = part ? Math.round((part.end - part.start) / part.rows) : 0;
  const divides = spacing.mode === 'divide' || spacing.mode === 'points';
  const slack = spacing.mode !== 'touch';
  const seldom: OptionalPart[] = [
    ...(!divides && slack
      ? [
          {
            label: 'Density',
            hint: 'Denser here and sparser there along the path',
            isSet: spacing.density.length > 0,
            content: (
              <RampField
                label="Density"
                hint="The pitch along the way is multiplied by this: low is denser"
                value={spacing.density}
                rest={1}
                range={[0.25, 4]}
                log
                step={0.1}
                color={props.color}
                onChange={(density, key) => set({ density }, key)}
              />
            ),
          },
        ]
      : []),
    ...(slack
      ? [
          {
            label: 'Loose by',
            hint: 'Each slot moves by chance along the path, so far at most to either side',
            isSet: spacing.looseBy > 0,
            content: (
              <>
                <NumberField
                  {...length}
                  label="Loose by"
                  hint="Each slot moves by chance along the path, so far at most to either side"
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
                    hint="Looseness leaves so much between neighbouring slots"
                    value={spacing.minDistance}
                    step={0.05}
                    min={0}
                    reset={0}
                    onChange={(v, key) => set({ minDistance: Math.max(0, v ?? 0) }, key)}
                  />
                )}
              </>
            ),
          },
        ]
      : []),
    {
      label: 'Rows',
      hint: 'Rows beside each other: how many, how far apart, on which side',
      isSet: spacing.rows.count > 1 || spacing.rows.side !== 'middle',
      content: <RowFields {...props} />,
    },
  ];
  return (
    <>
      <Segmented
        fill
        tight
        label="Spacing by"
        hint="What decides where the slots are"
        value={spacing.mode}
        options={MODES}
        onChange={(mode) =>
          // From a pitch to the count that it made: nothing moves.
          set({ mode, ...(mode === 'count' && there && { count: there }) })
        }
      />
      <Mode {...props} set={set} />
      {carried && (
        <Segmented
          shown
          label="Lengths"
          hint="On which surface lengths are measured: at rest, or as it moves"
          value={spacing.measured}
          options={MEASURED}
          onChange={(measured) => set({ measured })}
        />
      )}
      <InsetFields spacing={spacing} unit={scene.units} set={set} />
      <Optional parts={seldom} />
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
        <p className="mt-1 text-pretty text-[12.5px] text-soft">
          {spacingNote(run, facts, props.slots, scene)}
        </p>
      )}
    </>
  );
}

/** What the chosen way of spacing asks for. */
function Mode({ run, facts, set }: SpacingProps & { set: (values: Partial<Spacing>, key?: string) => void }) {
  const { spacing } = run;
  const unit = useDocument((s) => s.scene.units);
  const parts = useEngine((s) => s.result.arrangements.get(run.id)?.parts) ?? [];
  // What is closed and has no insets has no ends.
  const loops = facts.insets.every((inset) => inset <= 0) && parts.length > 0 && parts.every((p) => p.closed);
  const length = { dimension: 'length' as const, unit };
  const leftover = (
    <Segmented
      shown
      label="Leftover"
      hint="What becomes of the length that no whole pitch fills"
      value={spacing.leftover}
      options={LEFTOVER}
      onChange={(v) => set({ leftover: v })}
    />
  );
  switch (spacing.mode) {
    case 'pitch':
      return (
        <>
          <NumberField
            {...length}
            label="Pitch"
            field="pitch"
            hint="Empty: from the props’ own footprint"
            value={spacing.pitch ?? facts.askedPitch}
            auto={
              spacing.pitch === null ? `auto ${showMeasure(facts.askedPitch, 'length', unit, 2)}` : undefined
            }
            step={0.05}
            min={0.001}
            reset={null}
            onChange={(pitch, key) => set({ pitch }, key)}
          />
          {leftover}
        </>
      );
    case 'count':
      return (
        <>
          <NumberField
            whole
            label="Count"
            field="count"
            hint="So many slots on each path"
            value={spacing.count}
            min={1}
            reset={10}
            onChange={(v, key) => set({ count: v ?? 10 }, key)}
          />
          <Segmented
            shown
            label="Ends"
            hint="Where the first and the last slot are"
            value={spacing.ends}
            options={ENDS}
            onChange={(ends) => set({ ends })}
          />
        </>
      );
    case 'touch':
      return (
        <>
          <NumberField
            {...length}
            label="Clearance"
            field="clearance"
            hint="Air between neighbours; negative overlaps them"
            value={spacing.clearance}
            step={0.01}
            reset={0}
            onChange={(v, key) => set({ clearance: v ?? 0 }, key)}
          />
          {leftover}
        </>
      );
    case 'divide':
      return (
        <>
          <Segmented
            shown
            label="Divide"
            hint="What is divided: the whole path, each side between corners, each quarter"
            value={spacing.per}
            options={PER}
            onChange={(per) => set({ per })}
          />
          <NumberField
            whole
            label="Parts"
            field="parts"
            hint="Into so many equal parts"
            value={spacing.parts}
            min={1}
            max={100000}
            reset={4}
            onChange={(v, key) => set({ parts: v ?? 4 }, key)}
          />
          <NumberPair
            label="Take"
            fields={[
              {
                short: 'every',
                label: 'Take every',
                hint: '1 takes each division, 2 every second',
                whole: true,
                value: spacing.every,
                min: 1,
                max: 100000,
                reset: 1,
                onChange: (v, key) => set({ every: v ?? 1 }, key),
              },
              {
                short: 'from',
                label: 'Starting at',
                hint: 'Number of the first division taken, from 0',
                whole: true,
                value: spacing.from,
                min: 0,
                max: 100000,
                reset: 0,
                onChange: (v, key) => set({ from: v ?? 0 }, key),
              },
            ]}
          />
          {(!loops || spacing.per !== 'whole') && (
            <Toggle
              label="With the ends"
              hint="Slots at both ends too"
              value={spacing.withEnds}
              onChange={(withEnds) => set({ withEnds })}
            />
          )}
        </>
      );
    case 'points':
      return (
        <Segmented
          shown
          label="At"
          hint="At which places of the path"
          value={spacing.at}
          options={AT}
          onChange={(at) => set({ at })}
        />
      );
  }
}

function RowFields({ run }: SpacingProps) {
  const { rows } = run.spacing;
  const unit = useDocument((s) => s.scene.units);
  const set = (values: Partial<Rows>, key?: string) => dispatch(setRows, { id: run.id, values }, key);
  const one = rows.side !== 'alternate' && rows.side !== 'both' && rows.count === 1;
  return (
    <div>
      <Choice
        label="Rows"
        hint="Where rows beside each other lie"
        value={rows.side}
        options={SIDES}
        onChange={(side) => set({ side })}
      />
      {rows.side !== 'alternate' && (
        <NumberField
          whole
          label={rows.side === 'both' ? 'Rows a side' : 'Number of rows'}
          hint="So many rows beside each other"
          value={rows.count}
          min={1}
          max={120}
          reset={1}
          onChange={(v, key) => set({ count: v ?? 1 }, key)}
        />
      )}
      {!one && (
        <NumberField
          label="Row distance"
          hint="Metres from one row to the next"
          dimension="length"
          unit={unit}
          step={0.1}
          value={rows.distance}
          reset={1}
          onChange={(v, key) => set({ distance: v ?? 1 }, key)}
        />
      )}
      {rows.count > 1 && rows.side !== 'alternate' && (
        <NumberField
          label="Stagger"
          hint="Every second row moves on by this share of the pitch"
          dimension="percent"
          step={0.05}
          min={0}
          max={1}
          value={rows.stagger}
          reset={0}
          onChange={(v, key) => set({ stagger: Math.min(1, Math.max(0, v ?? 0)) }, key)}
        />
      )}
      {!one && (
        <Toggle
          label="Mirror the facing"
          hint="Rows on the left face the other way across the path"
          value={rows.mirrored}
          onChange={(mirrored) => set({ mirrored })}
        />
      )}
    </div>
  );
}
