'use client';

import type { NetworkSpec } from '@/core/mesh/network/networkSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setNetwork } from '@/store/commands/gathered';
import { dispatch, useDocument } from '@/store/document';
import { lengthField, NumberFields } from '../../../../controls/NumberFields';
import { Chosen } from './Chosen';

const FIELDS = [
  { ...lengthField('radius', 'Radius', 0.05, 'Of its tubes'), step: 0.01, min: 0.0001, max: 1000 },
  { ...lengthField('joint', 'Joints', 0.08, 'Radius of the balls that round its joints'), step: 0.01 },
  { ...lengthField('reach', 'Reach', 0.05, 'Tubes this far apart are still joined'), step: 0.01 },
  {
    name: 'sides',
    label: 'Sides',
    hint: 'Of a tube: more is rounder',
    whole: true,
    min: 3,
    max: 64,
    reset: 12,
  },
];

/** The lines of a network, and how thick it is. */
export function NetworkFields({ surface: { id }, spec }: { surface: Surface; spec: NetworkSpec }) {
  const paths = useDocument((s) => s.scene.paths);
  const set = (values: Partial<Omit<NetworkSpec, 'source'>>, key?: string) =>
    dispatch(setNetwork, { id, values }, key);
  return (
    <section aria-label="Network">
      <h3 className="mb-1 font-display text-sm font-semibold">Along</h3>
      <Chosen
        key={id}
        all={paths}
        ids={spec.paths}
        hint={(name) => `A tube along “${name}”`}
        onChange={(chosen) => set({ paths: chosen })}
      />
      <NumberFields fields={FIELDS} values={spec} set={set} />
    </section>
  );
}
