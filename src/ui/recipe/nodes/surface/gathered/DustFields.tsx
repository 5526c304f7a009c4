'use client';

import type { DustSpec } from '@/core/mesh/dust/dustSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setDustSheet } from '@/store/commands/gathered';
import { dispatch } from '@/store/document';
import { lengthField, NumberFields } from '../../../../controls/NumberFields';
import { Toggle } from '../../../../controls/Toggle';
import { Chosen } from './Chosen';
import { useBodies } from './useBodies';

const FIELDS = [
  {
    ...lengthField('cell', 'Fineness', 0.05, 'How large each of its squares is'),
    step: 0.01,
    min: 0.001,
    max: 1000,
  },
  { ...lengthField('distance', 'Distance', 0, 'Kept from what it lies over'), step: 0.01 },
  {
    ...lengthField('softness', 'Softness', 0.1, 'How far it hangs free beside what holds it up'),
    step: 0.05,
  },
  { ...lengthField('beyond', 'Beyond', 0.3, 'How far it reaches beyond what it lies over'), step: 0.05 },
];
const FLOOR = [{ ...lengthField('floor', 'Floor', 0, 'The height that it comes down to'), min: -1e6 }];

/** What a dust sheet lies over, and how. */
export function DustFields({ surface: { id }, spec }: { surface: Surface; spec: DustSpec }) {
  const bodies = useBodies(id);
  const set = (values: Partial<Omit<DustSpec, 'source'>>, key?: string) =>
    dispatch(setDustSheet, { id, values }, key);
  return (
    <section aria-label="Dust sheet">
      <h3 className="mb-1 font-display text-sm font-semibold">Lies over</h3>
      <Chosen
        key={id}
        all={bodies}
        ids={spec.over}
        hint={(name) => `It lies over “${name}”`}
        onChange={(over) => set({ over })}
      />
      <NumberFields fields={FIELDS} values={spec} set={set} />
      <Toggle
        label="Down to a height"
        hint="It comes down to a height of its own; else to the lowest of what it lies over"
        value={spec.floor !== null}
        onChange={(on) => set({ floor: on ? 0 : null })}
      />
      {spec.floor !== null && <NumberFields fields={FLOOR} values={spec} set={set} />}
    </section>
  );
}
