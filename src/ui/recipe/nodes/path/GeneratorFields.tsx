'use client';

import { Plus, X } from 'lucide-react';
import type { Generator } from '@/core/curve/schema';
import { useDocument } from '@/store/document';
import { IconButton } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { NumberField } from '../../../controls/NumberField';
import { lengthField, NumberFields, PlaceField, type FieldSpec } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';

const turns = (reset: number, limit: number, hint = 'How often it goes round'): FieldSpec => ({
  name: 'turns',
  label: 'Turns',
  hint,
  step: 0.25,
  min: -limit,
  max: limit,
  reset,
});

/** The plain numbers of each shape; what is more than a number follows below. */
const FIELDS: Record<Generator['shape'], FieldSpec[]> = {
  line: [],
  polyline: [lengthField('fillet', 'Fillet', 0, 'Radius by which corners are rounded')],
  circle: [lengthField('radius', 'Radius', 3, 'From the middle to the path')],
  arc: [
    lengthField('radius', 'Radius', 3, 'From the middle to the path'),
    {
      name: 'startDeg',
      label: 'Start',
      hint: 'Where it begins: degrees round its middle',
      dimension: 'angle',
      step: 5,
      reset: 0,
    },
    {
      name: 'sweepDeg',
      label: 'Sweep',
      hint: 'Degrees that it goes round',
      dimension: 'angle',
      step: 5,
      min: -360,
      max: 360,
      reset: 180,
    },
  ],
  rectangle: [
    lengthField('width', 'Width', 6, 'From left to right'),
    lengthField('depth', 'Depth', 4, 'From back to front'),
    lengthField('fillet', 'Fillet', 0.5, 'Radius by which corners are rounded'),
  ],
  polygon: [
    {
      name: 'sides',
      label: 'Sides',
      hint: 'So many straight sides',
      whole: true,
      min: 3,
      max: 2000,
      reset: 6,
    },
    lengthField('radius', 'Radius', 3, 'From the middle to the path'),
    lengthField('fillet', 'Fillet', 0, 'Radius by which corners are rounded'),
  ],
  helix: [
    lengthField('radius', 'Radius', 2, 'From the middle to the path'),
    {
      name: 'rise',
      label: 'Rise a turn',
      hint: 'How much it rises in one turn',
      dimension: 'length',
      step: 0.1,
      reset: 1,
    },
    turns(3, 2000, 'Negative runs clockwise seen from above'),
  ],
  spiral: [
    lengthField('inner', 'Inner radius', 0.5, 'Where the spiral begins'),
    lengthField('outer', 'Outer radius', 4, 'Where it ends'),
    turns(3, 2000),
  ],
  coil: [
    lengthField('radius', 'Radius', 0.3, 'From the middle to the path'),
    turns(12, 5000, 'Around the whole path; whole where it is closed'),
    {
      name: 'startDeg',
      label: 'Start',
      hint: 'Where it begins: degrees round its middle',
      dimension: 'angle',
      step: 5,
      reset: 0,
    },
  ],
  strand: [],
};

type Set = (values: Partial<Generator>, key?: string) => void;

/** The parameters of a generator, live. */
export function GeneratorFields({
  generator: g,
  owner,
  set,
}: {
  generator: Generator;
  owner: string;
  set: Set;
}) {
  const unit = useDocument((s) => s.scene.units);
  return (
    <>
      {g.shape === 'coil' && <Around owner={owner} value={g.path} set={set} />}
      <NumberFields
        within=""
        fields={FIELDS[g.shape]}
        values={g}
        set={(values, key) => set(values as Partial<Generator>, key)}
      />
      {g.shape === 'helix' && (
        <NumberField
          label="End radius"
          hint="Empty: the same all the way"
          dimension="length"
          unit={unit}
          step={0.1}
          min={0}
          value={g.endRadius ?? g.radius}
          auto={g.endRadius === null ? 'the same' : undefined}
          reset={null}
          onChange={(v, key) => set({ endRadius: v === null ? null : Math.max(0, v) }, key)}
        />
      )}
      {g.shape === 'line' && (
        <PlaceField
          label="To"
          hint="Where it ends: x, y, z"
          value={g.to}
          onChange={(to, key) => set({ to }, key)}
        />
      )}
      {g.shape === 'polyline' && <Corners value={g.corners} closed={g.closed} set={set} />}
      {g.shape === 'strand' && <StrandFields g={g} set={set} />}
    </>
  );
}

type P = [number, number, number];

function Around({ owner, value, set }: { owner: string; value: string; set: Set }) {
  const paths = useDocument((s) => s.scene.paths);
  return (
    <Choice
      label="Around"
      hint="The path that it winds around"
      value={value}
      none="missing"
      options={paths.filter((p) => p.id !== owner).map((p) => ({ value: p.id, text: p.name }))}
      onChange={(path) => set({ path })}
    />
  );
}

function Corners({ value, closed, set }: { value: P[]; closed: boolean; set: Set }) {
  const last = value[value.length - 1] ?? [0, 0, 0];
  return (
    <>
      <Toggle
        label="Closed"
        hint="The last corner joined to the first"
        value={closed}
        onChange={(c) => set({ closed: c })}
      />
      {value.map((p, i) => (
        <div key={i} className="flex items-center gap-1">
          <PlaceField
            label={`Corner ${i + 1}`}
            hint="Where it is: x, y, z"
            value={p}
            onChange={(v, key) => set({ corners: value.map((q, k) => (k === i ? v : q)) }, key)}
          />
          <IconButton
            name={`Take corner ${i + 1} out`}
            className="!size-5"
            disabled={value.length <= 1}
            onClick={() => set({ corners: value.filter((_, k) => k !== i) })}
          >
            <X size={12} />
          </IconButton>
        </div>
      ))}
      <IconButton
        name="Add a corner"
        onClick={() => set({ corners: [...value, [last[0] + 1, last[1], last[2]]] })}
      >
        <Plus size={15} />
      </IconButton>
    </>
  );
}

const BY = [
  { value: 'slack', text: 'Slack' },
  { value: 'length', text: 'Length' },
  { value: 'sag', text: 'Sag' },
] as const;

function StrandFields({ g, set }: { g: Extract<Generator, { shape: 'strand' }>; set: Set }) {
  const unit = useDocument((s) => s.scene.units);
  return (
    <>
      <PlaceField
        label="Other end"
        hint="Where the strand ends: x, y, z"
        value={g.to}
        onChange={(to, key) => set({ to }, key)}
      />
      <Segmented
        shown
        label="Hangs by"
        hint="What says how far it sags"
        value={g.by}
        options={BY}
        onChange={(by) => set({ by })}
      />
      {g.by === 'slack' ? (
        <NumberField
          label="Slack"
          hint="Longer than straight by this share"
          dimension="percent"
          step={0.01}
          min={0}
          max={100}
          value={g.slack}
          reset={0.1}
          onChange={(v, key) => set({ slack: Math.min(100, Math.max(0, v ?? 0.1)) }, key)}
        />
      ) : (
        <NumberField
          label={g.by === 'sag' ? 'Sag' : 'Length'}
          hint={g.by === 'sag' ? 'How far its lowest place hangs below the ends' : 'How long the strand is'}
          dimension="length"
          unit={unit}
          step={0.1}
          min={0}
          value={g.by === 'sag' ? g.sag : g.length}
          reset={g.by === 'sag' ? 1 : 7}
          onChange={(v, key) => set({ [g.by]: Math.max(0, v ?? 1) } as Partial<Generator>, key)}
        />
      )}
    </>
  );
}
