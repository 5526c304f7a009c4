'use client';

import { Plus } from 'lucide-react';
import type { Deformer, DeformerKind } from '@/core/mesh/deform/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { addDeformer, moveDeformer, removeDeformer, setDeformer } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { CardHead } from '../../../controls/CardHead';
import { LinkScope } from '../../../controls/LinkScope';
import { lengthField, NumberFields, PlaceField, type FieldSpec } from '../../../controls/NumberFields';
import { Optional } from '../../../controls/Optional';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { MaskChoice } from '../../../masks/MaskChoice';
import { ClothFields } from './ClothFields';
import { SagFields } from './SagFields';

const TITLES: Record<DeformerKind, string> = {
  bend: 'Bend',
  twist: 'Twist',
  taper: 'Taper',
  wave: 'Wave',
  noise: 'Noise',
  bulge: 'Bulge',
  pulley: 'Pulley',
  cloth: 'Cloth',
  sag: 'Sag',
};
const AXES = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'z', text: 'Z' },
] as const;
/** What each of its axes says. */
const WAYS = {
  along: 'The axis of the surface that it runs along',
  towards: 'The axis that it goes towards',
  push: 'The way in which places are moved',
};
const ROUND = [
  { value: 'v', text: 'V' },
  { value: 'u', text: 'U' },
] as const;
const PINNED = [
  { value: 'nowhere', text: 'None' },
  { value: 'start', text: 'Start' },
  { value: 'end', text: 'End' },
  { value: 'both', text: 'Both' },
] as const;

const free = (name: string, label: string, reset: number, hint: string): FieldSpec => ({
  ...lengthField(name, label, reset, hint),
  min: undefined,
  max: undefined,
});
const angle = (name: string, label: string, reset: number, hint: string): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'angle',
  step: 5,
  reset,
});
const share = (name: string, label: string, reset: number, hint: string, max = 1): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'percent',
  step: 0.05,
  min: 0,
  max,
  reset,
});
const SWAY: FieldSpec[] = [
  { ...share('sway', 'Sways by', 0, 'To and fro by this share of it, while the time runs', 100), min: -100 },
  {
    name: 'period',
    label: 'Every seconds',
    hint: 'Seconds of one swing there and back',
    step: 0.5,
    min: 0.01,
    max: 1e4,
    reset: 4,
  },
];
const FIELDS: Record<DeformerKind, FieldSpec[]> = {
  bend: [
    angle('angleDeg', 'Angle', 45, 'Degrees that the whole of it is bent'),
    share('fixed', 'Stays at', 0, 'The share of its length that does not move'),
  ],
  twist: [
    angle('angleDeg', 'Angle', 45, 'Degrees from one end to the other'),
    share('fixed', 'Stays at', 0, 'The share of its length that does not turn'),
  ],
  taper: [share('factor', 'Far end', 0.5, 'Width at the far end', 100)],
  wave: [
    free('height', 'Height', 0.2, 'Metres from the middle to a crest'),
    { ...lengthField('length', 'Crest to crest', 3, 'Metres from one wave to the next'), min: 0.001 },
    free('speed', 'Speed a second', 1, 'Metres that the waves run each second'),
    angle('directionDeg', 'Direction', 0, 'Which way they run, degrees about the axis'),
    angle('phaseDeg', 'Phase', 0, 'Where a wave stands at the beginning, degrees of a whole one'),
  ],
  noise: [
    free('height', 'Height', 0.3, 'Metres that the bumps reach up and down'),
    { ...lengthField('span', 'Bump to bump', 2, 'Metres from one bump to the next'), min: 0.001 },
    free('speed', 'Drift a second', 0, 'Metres that the bumps change by each second'),
    { name: 'seed', label: 'Seed', hint: 'Another number draws other random values', whole: true, reset: 1 },
  ],
  bulge: [
    { ...lengthField('radius', 'Radius', 1.5, 'How far around its middle the bulge reaches'), min: 0.001 },
  ],
  pulley: [
    free('offset', 'Offset', 0, 'Metres that its material is moved on'),
    free('speed', 'Speed a second', 0.5, 'Metres that its material goes round each second'),
  ],
  cloth: [
    {
      name: 'wind',
      label: 'Wind, metres a second',
      hint: 'How fast the wind blows on the cloth',
      step: 0.5,
      min: 0,
      max: 200,
      reset: 6,
    },
  ],
  sag: [
    share(
      'soft',
      'Flattens by',
      0.25,
      'How far its own weight flattens it where it lies; it widens by as much',
      0.7,
    ),
  ],
};

/** How soon motion dies down; shown where it is not as it was. */
const fading = (reset: number, max: number): FieldSpec => ({
  name: 'drag',
  label: 'Dies down',
  hint: 'How soon it comes to rest',
  step: 0.1,
  min: 0,
  max,
  reset,
});
const GRAVITY: FieldSpec = {
  name: 'gravity',
  label: 'Gravity',
  hint: 'How fast it falls, metres a second, each second',
  step: 0.5,
  min: -100,
  max: 100,
  reset: 9.81,
};
const lasting = (reset: number): FieldSpec => ({
  name: 'seconds',
  label: 'Simulated seconds',
  hint: 'After so long it stays as it is',
  step: 1,
  min: 0.1,
  max: 60,
  reset,
});

/** Those that are mostly left as they are. */
const SELDOM: Partial<Record<DeformerKind, FieldSpec[]>> = {
  bend: SWAY,
  twist: SWAY,
  taper: SWAY,
  bulge: SWAY,
  cloth: [
    angle('windDeg', 'Blows to', 0, 'Where the wind goes, degrees clockwise from north'),
    share('gusts', 'Gusts', 0.5, 'By how much the wind comes and goes', 2),
    share('stiffness', 'Stiffness', 0.2, '0 folds like silk, 100 hardly at all'),
    share('give', 'Stretches', 0, 'How far it gives along its threads'),
    {
      name: 'weight',
      label: 'Weight, kg a m²',
      hint: 'Heavy cloth is moved less by the wind',
      step: 0.05,
      min: 0.01,
      max: 100,
      reset: 0.35,
    },
    GRAVITY,
    fading(0.6, 20),
    lasting(10),
    { name: 'seed', label: 'Seed', hint: 'Other gusts', whole: true, reset: 1 },
  ],
  sag: [share('stiffness', 'Stiffness', 0.1, '0 is cream, 100 is wire'), GRAVITY, fading(4, 50), lasting(5)],
};

/** What a new deformer is to begin with, where that is not what old ones are taken for. */
function begun(kind: DeformerKind, surface: string): Partial<Deformer> | undefined {
  if (kind === 'cloth') return { itself: true };
  if (kind !== 'sag') return undefined;
  const { surfaces } = useDocument.getState().scene;
  const onto = surfaces.flatMap((s) => (s.visible && s.id !== surface ? [s.id] : [])).slice(0, 20);
  // Without anything to lie on it hangs between its ends.
  const hangs = onto.length === 0;
  return { onto, holdStart: hangs, holdEnd: hangs, settled: true };
}

/** What deforms a surface, in the order of the work. */
export function Deformers({ surface }: { surface: Surface }) {
  const { id, deformers } = surface;
  return (
    <section aria-label="Deformers">
      <div className="mb-1 mt-3 flex items-center justify-between">
        <h3 className="font-display text-sm font-semibold">Deformers</h3>
        <PlainMenu
          name="Add a deformer"
          entries={(Object.keys(TITLES) as DeformerKind[]).map((kind) => ({
            text: TITLES[kind],
            run: () => void dispatch(addDeformer, { id, kind, values: begun(kind, id) }),
          }))}
        >
          <Plus size={15} />
        </PlainMenu>
      </div>
      {deformers.length === 0 && (
        <p className="text-[12.5px] text-soft">
          Nothing deforms it. What stands on it follows when something does.
        </p>
      )}
      {deformers.map((d, i) => (
        <Card key={d.id} surface={id} deformer={d} first={i === 0} last={i === deformers.length - 1} />
      ))}
    </section>
  );
}

function Card({
  surface: id,
  deformer: d,
  first,
  last,
}: {
  surface: string;
  deformer: Deformer;
  first: boolean;
  last: boolean;
}) {
  const title = TITLES[d.kind];
  const set = (values: Partial<Deformer>, key?: string) =>
    dispatch(setDeformer, { id, deformer: d.id, values }, key);
  const axis = (label: string, field: keyof typeof WAYS, value: string, normal = false) => (
    <Segmented
      shown
      label={label}
      hint={WAYS[field]}
      value={value}
      options={normal ? [...AXES, { value: 'normal', text: 'Normal' }] : AXES}
      onChange={(v) => set({ [field]: v } as Partial<Deformer>)}
    />
  );
  return (
    <div role="group" aria-label={title} className="mb-1.5 rounded-md border border-edge bg-paper px-2 py-1">
      <CardHead
        title={title}
        hint="Takes part in what becomes of the surface"
        on={d.on}
        first={first}
        last={last}
        out={`Take ${title} off`}
        onSwitch={(on) => set({ on })}
        onMove={(way) => dispatch(moveDeformer, { id, deformer: d.id, way })}
        onOut={() => dispatch(removeDeformer, { id, deformer: d.id })}
      />
      {d.on && (
        <>
          {(d.kind === 'bend' || d.kind === 'twist' || d.kind === 'taper') && axis('Along', 'along', d.along)}
          {d.kind === 'bend' && axis('Towards', 'towards', d.towards)}
          {d.kind === 'wave' && axis('Pushes', 'push', d.push)}
          {d.kind === 'noise' && axis('Pushes', 'push', d.push, true)}
          {d.kind === 'pulley' && (
            <Segmented
              shown
              tight
              label="Round by"
              hint="The way round which the surface closes: along its path is v"
              value={d.way}
              options={ROUND}
              onChange={(way) => set({ way })}
            />
          )}
          {d.kind === 'bulge' && (
            <>
              <span className="text-sm">Middle</span>
              <PlaceField
                label="Bulge middle"
                hint="Where the bulge is: x, y, z"
                value={d.at}
                onChange={(at, key) => set({ at }, key)}
              />
              <span className="text-sm">Moved by</span>
              <PlaceField
                label="Bulge by"
                hint="How far the middle is moved: x, y, z"
                value={d.by}
                onChange={(by, key) => set({ by }, key)}
              />
            </>
          )}
          <LinkScope node={id} at={`deformers.${d.id}`}>
            <NumberFields
              within=""
              fields={FIELDS[d.kind]}
              values={d}
              set={(values, key) => set(values as Partial<Deformer>, key)}
            />
          </LinkScope>
          {'mask' in d && (
            <MaskChoice
              label="Strength by"
              hint="A mask: how much of it counts at a place. It is read before anything deforms the surface"
              value={d.mask}
              onChange={(mask) => set({ mask })}
            />
          )}
          {d.kind === 'cloth' && <ClothFields surface={id} cloth={d} set={set} />}
          {d.kind === 'sag' && <SagFields surface={id} sag={d} set={set} />}
          {'settled' in d && (
            <Toggle
              label="Settled"
              hint="At all times as it is at the end of its seconds; else it begins with the time"
              value={d.settled}
              onChange={(settled) => set({ settled })}
            />
          )}
          <Optional
            parts={(SELDOM[d.kind] ?? []).map((f) => ({
              label: f.label,
              hint: f.hint ?? f.label,
              isSet: (d as unknown as Record<string, number>)[f.name] !== f.reset,
              content: (
                <LinkScope node={id} at={`deformers.${d.id}`}>
                  <NumberFields
                    within=""
                    fields={[f]}
                    values={d}
                    set={(values, key) => set(values as Partial<Deformer>, key)}
                  />
                </LinkScope>
              ),
            }))}
          />
          {d.kind === 'wave' && (
            <Segmented
              shown
              tight
              label="Stays still"
              hint="Which edge does not move"
              value={d.pinned}
              options={PINNED}
              onChange={(pinned) => set({ pinned })}
            />
          )}
        </>
      )}
    </div>
  );
}
