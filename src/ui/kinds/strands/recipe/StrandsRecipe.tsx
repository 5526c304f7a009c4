'use client';

import type { Strands } from '@/core/arrange/strands/schema';
import { setArrangement, type ArrangementValues } from '@/store/commands/arrangements';
import { addStrandsPath, hangStrands } from '@/store/commands/hanging';
import { giveLineBody, setStrandsEnd } from '@/store/commands/strands';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectNode } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { hangPhrase } from '@/words/hanging';
import { LINES } from '../../../basket/makeLine';
import { Button } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { HangFields } from '../../../controls/HangFields';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { GapsOf, HandOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { WeightedProps } from '../../../recipe/steps/WeightedProps';
import { snapNames } from './hangLinesOn';

const PAIRS: { value: Strands['pairs']; text: string }[] = [
  { value: 'next', text: 'Each to the next' },
  { value: 'rows', text: 'Row to row' },
  { value: 'same', text: 'The same number' },
  { value: 'nearest', text: 'The nearest' },
  { value: 'cross', text: 'Crosswise' },
  { value: 'random', text: 'By chance' },
];
const TO_OTHERS = new Set<Strands['pairs']>(['same', 'nearest', 'cross', 'random']);
const FITS = [
  { value: 'stretch', text: 'Stretch', hint: 'One as long as the line, its ends as they are' },
  { value: 'repeat', text: 'Repeat', hint: 'As many as come nearest to their own length' },
] as const;
const MADE = [
  { what: 'tube', text: 'A tube', hint: 'As thick and with as many sides as one says; its ends are round' },
  { what: 'rope', text: 'A rope', hint: 'Of as many twisted strands as one says' },
] as const;
const EVERY: FieldSpec = {
  name: 'every',
  label: 'From every n-th',
  hint: 'Lines begin at each, at every second, every third',
  whole: true,
  min: 1,
  max: 1000,
  reset: 1,
};
const REACH: FieldSpec = {
  name: 'reach',
  label: 'To the n-th after',
  hint: 'From each to the next, the second, the third after it',
  whole: true,
  min: 1,
  max: 1000,
  reset: 1,
};
const BODY: FieldSpec[] = [
  {
    name: 'size',
    label: 'Size across',
    hint: 'How thick what lies along the lines is, of its own',
    dimension: 'percent',
    step: 0.05,
    min: 0.01,
    reset: 1,
  },
  { name: 'seed', label: 'Seed', hint: 'Another number draws other random values', whole: true, reset: 1 },
];

/** Strands: between what lines hang, how, and what lies along them. */
export function StrandsRecipe({ arrangement: a }: { arrangement: Strands }) {
  const scene = useDocument((s) => s.scene);
  // Snap points are those of what stands there now.
  useEngine((s) => s.result.arrangements.get(a.from.on)?.key);
  const color = THREAD_COLORS[a.thread];
  const nameOf = (id: string) => scene.props.find((p) => p.id === id)?.name ?? 'missing';
  const set = (values: ArrangementValues, key?: string) =>
    dispatch(setArrangement, { id: a.id, values }, key);
  // What is made for lines knows how it is as long as one.
  const fitted = a.props.some(({ prop }) => scene.props.find((p) => p.id === prop)?.mesh.source !== 'line');
  const others = scene.arrangements.filter((other) => other.id !== a.id);
  return (
    <>
      <Step
        name="props"
        title="Body"
        color={color}
        phrase={a.props.map((p) => nameOf(p.prop)).join(', ') || 'Bare lines'}
      >
        <WeightedProps
          label="Along the lines"
          value={a.props}
          onChange={(props, key) => set({ props }, key)}
        />
        <div className="mb-1 flex items-center justify-between gap-2 text-sm">
          Made for them
          <span className="flex gap-1.5">
            {MADE.map(({ what, text, hint }) => (
              <Button
                key={what}
                look="bordered"
                className="!text-[12.5px]"
                title={hint}
                onClick={() => dispatch(giveLineBody, { id: a.id, ...LINES[what] })}
              >
                {text}
              </Button>
            ))}
          </span>
        </div>
        {fitted && (
          <Segmented
            shown
            label="Fit"
            hint="How a prop becomes as long as its line"
            value={a.fit}
            options={FITS}
            onChange={(fit) => set({ fit })}
          />
        )}
        <NumberFields fields={BODY} values={{ size: a.size, seed: a.seed }} set={set} />
      </Step>
      <Step name="facing" title="Ends" color={color} phrase={endsPhrase(a, others)}>
        <Choice
          label="Pairs"
          hint="Which places have a line between them"
          value={a.pairs}
          options={PAIRS}
          onChange={(pairs) => set({ pairs })}
        />
        <End a={a} end="from" title="From" others={others} />
        {TO_OTHERS.has(a.pairs) ? (
          <End a={a} end="to" title="To" others={others} />
        ) : (
          <SnapChoice a={a} end="to" title="To its" on={a.from.on} />
        )}
        <NumberFields
          fields={a.pairs === 'next' ? [REACH, EVERY] : [EVERY]}
          values={{ reach: a.reach, every: a.every }}
          set={set}
        />
      </Step>
      <Step name="ground" title="Hanging" color={color} phrase={hangPhrase(a.hang, scene.units)}>
        <LinkScope node={a.id} at="hang">
          <HangFields hang={a.hang} set={(values, key) => dispatch(hangStrands, { id: a.id, values }, key)} />
        </LinkScope>
        <Button
          look="bordered"
          className="mt-2"
          title="Their lines as a path: flags and lanterns hang on it, coils wind around it"
          onClick={() => {
            const made = dispatch(addStrandsPath, { id: a.id });
            if (made) selectNode('path', made);
          }}
        >
          As a path to hang things on
        </Button>
      </Step>
      <GapsOf arrangement={a} />
      <HandOf arrangement={a} />
    </>
  );
}

type Others = { id: string; name: string }[];

function endsPhrase(a: Strands, others: Others): string {
  const of = (id: string | null) => others.find((o) => o.id === id)?.name ?? 'missing';
  const pairs = PAIRS.find((p) => p.value === a.pairs)!.text.toLowerCase();
  const to = TO_OTHERS.has(a.pairs) && a.to.on !== null ? ` of ${of(a.to.on)}` : '';
  return `${of(a.from.on)}, ${pairs}${to}`;
}

interface EndProps {
  a: Strands;
  end: 'from' | 'to';
  title: string;
}

/** One end of the lines: an arrangement, and a snap point of what it has placed. */
function End({ a, end, title, others }: EndProps & { others: Others }) {
  const on = a[end].on;
  return (
    <>
      <Choice
        label={title}
        hint="The arrangement whose props the lines hang from"
        value={on ?? ''}
        options={[
          ...(end === 'to' ? [{ value: '', text: 'the same' }] : []),
          ...others.map((o) => ({ value: o.id, text: o.name })),
        ]}
        none="Missing"
        onChange={(id) => {
          const next = id === '' ? null : id;
          const snap = snapNames(next ?? a.from.on)[0] ?? null;
          dispatch(setStrandsEnd, { id: a.id, end, values: { on: next, snap } });
        }}
      />
      <SnapChoice a={a} end={end} title={`${title} its`} on={on ?? a.from.on} />
    </>
  );
}

function SnapChoice({ a, end, title, on }: EndProps & { on: string }) {
  const { snap } = a[end];
  return (
    <Choice
      label={title}
      hint="The snap point that a line hangs from, or the foot"
      value={snap ?? ''}
      options={[{ value: '', text: 'foot' }, ...snapNames(on).map((name) => ({ value: name, text: name }))]}
      none={`${snap}, missing`}
      onChange={(name) =>
        dispatch(setStrandsEnd, { id: a.id, end, values: { snap: name === '' ? null : name } })
      }
    />
  );
}
