'use client';

import { Plus, X } from 'lucide-react';
import type { SurfaceShape } from '@/core/mesh/make/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setShape } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { Button, IconButton } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { NumberField } from '../../../controls/NumberField';
import { lengthField, NumberFields, PlaceField, type FieldSpec } from '../../../controls/NumberFields';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Toggle } from '../../../controls/Toggle';
import { openDialog } from '../../../uiState';
import { ProfileFields } from './ProfileFields';
import { SurfaceColor } from './FaceFields';

const size = (
  name: string,
  label: string,
  reset: number,
  hint = 'From one side to the other',
): FieldSpec => ({
  ...lengthField(name, label, reset, hint),
  min: 0.001,
  max: 1e5,
});
const cells = (name: string, label: string, reset: number): FieldSpec => ({
  name,
  label,
  hint: 'Its mesh has so many: more bend finer',
  whole: true,
  min: 1,
  max: 1000,
  reset,
});
const angle = (name: string, label: string, hint: string): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'angle',
  step: 5,
  reset: 0,
});
const grid = (columns: number, rows: number) => [
  cells('columns', 'Columns', columns),
  cells('rows', 'Rows', rows),
];

const FIELDS: Record<SurfaceShape['shape'], FieldSpec[]> = {
  plane: [size('width', 'Width', 12), size('depth', 'Depth', 12), ...grid(24, 24)],
  hills: [
    size('width', 'Width', 24),
    size('depth', 'Depth', 24),
    { ...lengthField('height', 'Height', 1.5, 'From the lowest to the highest'), min: -1e4, max: 1e4 },
    size('span', 'Hill to hill', 8, 'Metres from one hill to the next'),
    {
      name: 'layers',
      label: 'Layers',
      whole: true,
      min: 1,
      max: 8,
      reset: 3,
      hint: 'Each half as high, twice as fine',
    },
    { name: 'seed', label: 'Seed', hint: 'Another number draws other random values', whole: true, reset: 1 },
    ...grid(64, 64),
  ],
  picture: [
    size('width', 'Width', 24),
    size('depth', 'Depth', 24),
    {
      ...lengthField(
        'height',
        'Black to white',
        3,
        'Metres from where the picture is black to where it is white',
      ),
      min: -1e4,
      max: 1e4,
    },
    ...grid(128, 128),
  ],
  turned: [
    {
      name: 'sweepDeg',
      label: 'Sweep',
      hint: 'Degrees that it goes round',
      dimension: 'angle',
      step: 5,
      min: 1,
      max: 360,
      reset: 360,
    },
    ...grid(48, 32),
  ],
  tube: [size('radius', 'Radius', 0.25), ...grid(16, 96)],
  loft: grid(48, 24),
  strip: [
    size('width', 'Width', 0.5),
    {
      name: 'rollDeg',
      label: 'Roll',
      hint: 'Degrees that it is turned about its path',
      dimension: 'angle',
      step: 5,
      reset: 0,
    },
    ...grid(4, 160),
  ],
  swept: [
    size('width', 'Width', 0.3),
    size('height', 'Height', 0.3, 'From its lowest to its highest'),
    { ...angle('rollDeg', 'Roll', 'Turned about the path') },
    { ...angle('twistDeg', 'Twist', 'Turned on from its beginning to its end') },
    {
      name: 'endFactor',
      label: 'End size',
      hint: 'Its size at its end',
      dimension: 'percent',
      step: 0.05,
      min: 0.001,
      max: 1000,
      reset: 1,
    },
    cells('rows', 'Rows', 160),
  ],
  sphere: [size('radius', 'Radius', 2), ...grid(48, 24)],
  torus: [size('radius', 'Radius', 2), size('thickness', 'Thickness', 0.5), ...grid(64, 24)],
  box: [
    size('width', 'Width', 4),
    size('height', 'Height', 2),
    size('depth', 'Depth', 4),
    lengthField('fillet', 'Rounded by', 0.2, 'Radius of its edges and corners'),
    { ...cells('cells', 'Cells', 6), max: 100 },
  ],
};

/** The numbers and paths of a surface that was made, live. */
export function ShapeFields({ surface }: { surface: Surface }) {
  const unit = useDocument((s) => s.scene.units);
  if (surface.mesh.source !== 'made') return null;
  const { shape } = surface.mesh;
  const { id } = surface;
  const set = (values: Partial<SurfaceShape>, key?: string) => dispatch(setShape, { id, values }, key);
  return (
    <>
      {'path' in shape && (
        <PathChoice
          label={shape.shape === 'turned' ? 'Profile' : 'Along'}
          value={shape.path}
          onChange={(path) => set({ path })}
        />
      )}
      {shape.shape === 'turned' && (
        <PlaceField
          label="Axis"
          hint="The axis that the profile is turned about: x, y, z"
          value={shape.axis}
          onChange={(axis, key) => set({ axis }, key)}
        />
      )}
      {shape.shape === 'picture' && (
        <div className="flex min-h-9 items-center justify-between gap-3 text-sm">
          Picture
          <Button
            look="bordered"
            title="A grey picture: its brightness is height"
            className="max-w-[170px]"
            onClick={() => openDialog('bring-in')}
          >
            <span className="truncate">{shape.picture?.fileName ?? 'Choose one'}</span>
          </Button>
        </div>
      )}
      {shape.shape === 'swept' && <ProfileFields shape={shape} set={set} />}
      {shape.shape === 'loft' && <LoftPaths paths={shape.paths} set={set} />}
      <NumberFields
        within=""
        fields={FIELDS[shape.shape]}
        values={shape}
        set={(values, key) => set(values as Partial<SurfaceShape>, key)}
      />
      {shape.shape === 'tube' && (
        <NumberField
          label="End radius"
          hint="Empty: the same all the way"
          dimension="length"
          unit={unit}
          step={0.05}
          min={0.001}
          value={shape.endRadius ?? shape.radius}
          auto={shape.endRadius === null ? 'the same' : undefined}
          reset={null}
          onChange={(v, key) => set({ endRadius: v === null ? null : Math.max(0.001, v) }, key)}
        />
      )}
      {shape.shape === 'loft' && (
        <Toggle
          label="Smooth through"
          hint="Smooth from path to path, or straight"
          value={shape.smooth}
          onChange={(smooth) => set({ smooth })}
        />
      )}
      {'ends' in shape && (
        <Toggle
          label="Ends closed"
          hint="It is a body, to be joined and printed"
          value={shape.ends}
          onChange={(ends) => set({ ends })}
        />
      )}
      <SurfaceColor surfaces={[surface]} />
    </>
  );
}

function PathChoice(p: { label: string; value: string; onChange: (path: string) => void }) {
  const paths = useDocument((s) => s.scene.paths);
  return (
    <Choice
      label={p.label}
      hint="The path that it is made from"
      value={p.value}
      none="missing"
      options={paths.map((x) => ({ value: x.id, text: x.name }))}
      onChange={p.onChange}
    />
  );
}

function LoftPaths({ paths, set }: { paths: string[]; set: (values: { paths: string[] }) => void }) {
  const all = useDocument((s) => s.scene.paths);
  return (
    <>
      {paths.map((path, i) => (
        <div key={i} className="flex items-center gap-1 [&>:first-child]:flex-1">
          <PathChoice
            label={`Path ${i + 1}`}
            value={path}
            onChange={(next) => set({ paths: paths.map((p, k) => (k === i ? next : p)) })}
          />
          <IconButton
            name={`Take path ${i + 1} out`}
            className="!size-5"
            onClick={() => set({ paths: paths.filter((_, k) => k !== i) })}
          >
            <X size={12} />
          </IconButton>
        </div>
      ))}
      <PlainMenu
        name="Add a path to the loft"
        entries={all.map((p) => ({ text: p.name, run: () => set({ paths: [...paths, p.id] }) }))}
      >
        <Plus size={15} />
      </PlainMenu>
    </>
  );
}
