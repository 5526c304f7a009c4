'use client';

import { spansSchema, type SpanEnd, type Spans } from '@/core/arrange/spans/schema';
import { setArrangement, type ArrangementValues } from '@/store/commands/arrangements';
import { setSpanEnd } from '@/store/commands/spans';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { Choice } from '../../../controls/Choice';
import { lengthField, NumberFields, PlaceField } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { GapsOf, HandOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { WeightedProps } from '../../../recipe/steps/WeightedProps';

const FITS = [
  { value: 'stretch', text: 'Stretch', hint: 'One, as long as it has to be' },
  { value: 'repeat', text: 'Repeat', hint: 'As many as come nearest to their own length, evened out' },
  { value: 'cut', text: 'Cut', hint: 'Whole ones, and the last cut off' },
  { value: 'trim', text: 'Trim', hint: 'One, cut off where it is longer than the way' },
] as const;

const FITTED = { stretch: 'stretched', repeat: 'repeated', cut: 'cut', trim: 'trimmed' };

/** Spans: which members, how they fit, where they meet their posts, and which posts they join. */
export function SpansRecipe({ arrangement: a }: { arrangement: Spans }) {
  const scene = useDocument((s) => s.scene);
  const color = THREAD_COLORS[a.thread];
  const { divisions } = a;
  const posts = divisions
    ? scene.paths.find((p) => p.id === divisions.path)
    : scene.arrangements.find((other) => other.id === a.on);
  const nameOf = (id: string) => scene.props.find((p) => p.id === id)?.name ?? 'missing';
  const set = (values: ArrangementValues, key?: string) =>
    dispatch(setArrangement, { id: a.id, values }, key);
  return (
    <>
      <Step
        name="props"
        title="Members"
        color={color}
        phrase={`${a.props.map((p) => nameOf(p.prop)).join(', ') || 'None yet'}, ${FITTED[a.fit]}`}
      >
        <WeightedProps label="Members" value={a.props} onChange={(props, key) => set({ props }, key)} />
        <Segmented
          shown
          tight
          label="Fit"
          hint="How a member fills the way between two posts"
          value={a.fit}
          options={FITS}
          onChange={(fit) => set({ fit })}
        />
        <Toggle
          label="Along the path"
          hint="Bent along the path of the posts instead of straight"
          value={a.follow}
          onChange={(follow) => set({ follow })}
        />
        <Choice
          label="Corner piece"
          hint="A prop put where members meet at an angle"
          value={a.corner?.prop ?? ''}
          options={[{ value: '', text: 'none' }, ...scene.props.map((p) => ({ value: p.id, text: p.name }))]}
          none="Missing"
          onChange={(prop) => set({ corner: prop ? { prop, angleDeg: a.corner?.angleDeg ?? 20 } : null })}
        />
        {a.corner && (
          <NumberFields
            fields={[
              {
                name: 'angleDeg',
                label: 'Where they turn by',
                hint: 'Only where two members meet at more than this',
                dimension: 'angle',
                step: 5,
                min: 0,
                max: 180,
                reset: 20,
              },
            ]}
            values={a.corner}
            set={(values, key) => set({ corner: { ...a.corner!, ...values } }, key)}
          />
        )}
        <NumberFields
          fields={[
            {
              name: 'size',
              label: 'Size across',
              hint: 'Thickness of the members, of their own',
              dimension: 'percent',
              step: 0.05,
              min: 0.01,
              reset: 1,
            },
            {
              name: 'rollDeg',
              label: 'Roll',
              hint: 'Degrees about its front axis',
              dimension: 'angle',
              step: 5,
              reset: 0,
            },
            {
              name: 'seed',
              label: 'Seed',
              hint: 'Another number draws other random values',
              whole: true,
              reset: 1,
            },
          ]}
          values={{ size: a.size, rollDeg: a.rollDeg, seed: a.seed }}
          set={set}
        />
      </Step>
      <Step
        name="spacing"
        title="Posts"
        color={color}
        phrase={`${divisions ? `${divisions.parts} parts${divisions.per === 'whole' ? '' : ` per ${divisions.per}`} of ` : ''}${posts?.name ?? 'Missing'}${a.reach > 1 ? `, to the ${a.reach}. after` : ''}${a.every > 1 ? `, every ${a.every}.` : ''}`}
      >
        <Choice
          label="Between"
          hint="The arrangement whose props the members run between, or a path whose divisions they do"
          value={divisions?.path ?? a.on}
          options={[
            ...scene.arrangements
              .filter((other) => other.id !== a.id)
              .map((other) => ({ value: other.id, text: other.name })),
            ...scene.paths.map((p) => ({ value: p.id, text: `Divisions of ${p.name}` })),
          ]}
          none="Missing"
          onChange={(id) =>
            set(
              scene.paths.some((p) => p.id === id)
                ? { on: '', divisions: spansSchema.shape.divisions.parse({ ...divisions, path: id }) }
                : { on: id, divisions: null },
            )
          }
        />
        {divisions && (
          <Divisions
            divisions={divisions}
            set={(v, key) => set({ divisions: { ...divisions, ...v } }, key)}
          />
        )}
        <NumberFields
          fields={[
            {
              name: 'reach',
              label: 'To the n-th after',
              hint: 'From each post to the next, the second, the third after it',
              whole: true,
              min: 1,
              max: 1000,
              reset: 1,
            },
            {
              name: 'every',
              label: 'From every n-th',
              hint: 'Members begin at each post, at every second, every third',
              whole: true,
              min: 1,
              max: 1000,
              reset: 1,
            },
            lengthField('inset', 'Free at both ends', 0, 'Metres left free between a member and its posts'),
            lengthField('longest', 'None over more than', 0, '0: however far apart posts are'),
          ]}
          values={{ reach: a.reach, every: a.every, inset: a.inset, longest: a.longest }}
          set={set}
        />
      </Step>
      <Step name="facing" title="Ends" color={color} phrase={endsPhrase(a)}>
        <End spans={a} end="from" title="Leaves a post at" />
        <End spans={a} end="to" title="Meets the next at" />
      </Step>
      <GapsOf arrangement={a} />
      <HandOf arrangement={a} />
    </>
  );
}

type Divided = NonNullable<Spans['divisions']>;

/** Which divisions of a path members run between. */
function Divisions({
  divisions,
  set,
}: {
  divisions: Divided;
  set: (values: Partial<Divided>, key?: string) => void;
}) {
  return (
    <>
      <Segmented
        fill
        label="Divides"
        hint="The whole path, each of its sides between corners, or each quarter of it"
        value={divisions.per}
        options={[
          { value: 'whole', text: 'Whole' },
          { value: 'side', text: 'Side' },
          { value: 'quadrant', text: 'Quadrant' },
        ]}
        onChange={(per) => set({ per })}
      />
      <NumberFields
        fields={[
          { name: 'parts', label: 'Parts', hint: 'Equal ones', whole: true, min: 1, max: 100000, reset: 4 },
          {
            name: 'every',
            label: 'Take every',
            hint: 'n-th division: from these members run',
            whole: true,
            min: 1,
            max: 100000,
            reset: 1,
          },
          {
            name: 'from',
            label: 'Starting at',
            hint: 'The first one taken, counted from 0',
            whole: true,
            min: 0,
            max: 100000,
            reset: 0,
          },
        ]}
        values={divisions}
        set={set}
      />
      <Toggle
        label="Ends too"
        hint="Both ends of what is divided count as well"
        value={divisions.withEnds}
        onChange={(withEnds) => set({ withEnds })}
      />
    </>
  );
}

const endsPhrase = ({ from, to }: Spans): string => {
  const one = (e: SpanEnd) => e.snap ?? `${e.offset[1]} m up`;
  return one(from) === one(to) ? one(from) : `${one(from)} to ${one(to)}`;
};

/** Where members meet their posts at one end: a snap point or the foot, and how far from it. */
function End({ spans, end, title }: { spans: Spans; end: 'from' | 'to'; title: string }) {
  const scene = useDocument((s) => s.scene);
  const posts = useEngine((s) => s.result.arrangements.get(spans.on)?.placements);
  const names = new Set(
    (posts?.props ?? []).flatMap(
      (id) => scene.props.find((p) => p.id === id)?.snapPoints.map((s) => s.name) ?? [],
    ),
  );
  const { snap, offset } = spans[end];
  if (snap) names.add(snap);
  return (
    <div className="mb-1">
      {names.size > 0 ? (
        <Choice
          label={title}
          hint="The point of each post that the member meets"
          value={snap ?? ''}
          options={[
            { value: '', text: 'its foot' },
            ...[...names].map((name) => ({ value: name, text: name })),
          ]}
          onChange={(name) =>
            dispatch(setSpanEnd, {
              id: spans.id,
              end,
              values: { snap: name || null, ...(name && { offset: [0, 0, 0] as [number, number, number] }) },
            })
          }
        />
      ) : (
        <span className="text-sm">{title}</span>
      )}
      <PlaceField
        label={title}
        hint="Metres from there: left, up, to the front of the post"
        value={offset}
        onChange={(value, key) => dispatch(setSpanEnd, { id: spans.id, end, values: { offset: value } }, key)}
      />
    </div>
  );
}
