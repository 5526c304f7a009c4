'use client';

import type { Axis } from '@/core/mesh/meshRef';
import { Choice } from '../../controls/Choice';

export const AXES: { value: Axis; text: string }[] = [
  { value: '+y', text: '+Y' },
  { value: '+z', text: '+Z' },
  { value: '+x', text: '+X' },
  { value: '-y', text: '−Y' },
  { value: '-z', text: '−Z' },
  { value: '-x', text: '−X' },
];

export const AxisField = (p: { label: string; value: Axis; onChange: (axis: Axis) => void; not?: Axis }) => (
  <Choice
    label={p.label}
    hint={
      p.label === 'Up axis'
        ? 'The axis of the mesh that points up'
        : 'The axis of the mesh that points to the front'
    }
    value={p.value}
    options={AXES.filter((a) => a.value[1] !== p.not?.[1])}
    onChange={p.onChange}
  />
);

export const UNITS = [
  { value: 1, text: 'metres' },
  { value: 0.01, text: 'centimetres' },
  { value: 0.001, text: 'millimetres' },
  { value: 0.0254, text: 'inches' },
  { value: 0.3048, text: 'feet' },
];

/** What one unit of the file is. */
export const UnitField = (p: { value: number; onChange: (scale: number) => void }) => (
  <Choice
    label="The file is in"
    hint="What one unit of the file is"
    value={p.value}
    options={UNITS}
    onChange={p.onChange}
  />
);
