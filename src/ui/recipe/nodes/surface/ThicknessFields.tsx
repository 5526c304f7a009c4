'use client';

import type { Thickness } from '@/core/mesh/solid/thicknessSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setThickness } from '@/store/commands/surfaces';
import { dispatch } from '@/store/document';
import { LinkScope } from '../../../controls/LinkScope';
import { lengthField, NumberFields } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { BodyFacts, type Body } from './BodyFacts';
import { giveThickness } from './giveThickness';

const FIELDS = [
  { ...lengthField('outwards', 'Outwards', 0, 'How far its outer side is off the surface'), step: 0.01 },
  { ...lengthField('inwards', 'Inwards', 0.05, 'How far its inner side is off the surface'), step: 0.01 },
];

/** How thick a surface is, and what it is as a body. */
export function ThicknessFields({ surface: { id, thickness }, body }: { surface: Surface; body: Body }) {
  const set = (values: Partial<Thickness> | null, key?: string) =>
    dispatch(setThickness, { id, values }, key);
  return (
    <section aria-label="Thickness">
      <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Thickness</h3>
      <Toggle
        label="Thick"
        hint="It becomes a closed shell; things stand on its outer side"
        value={thickness !== null}
        onChange={(on) => (on ? void giveThickness(id) : set(null))}
      />
      {thickness && (
        <>
          <LinkScope node={id} at="thickness">
            <NumberFields within="" fields={FIELDS} values={thickness} set={set} />
          </LinkScope>
          <Segmented
            shown
            label="Rim"
            hint="How its borders are closed"
            value={thickness.rim}
            options={[
              { value: 'square', text: 'Square' },
              { value: 'round', text: 'Round' },
            ]}
            onChange={(rim) => set({ rim })}
          />
        </>
      )}
      <BodyFacts body={body} />
    </section>
  );
}
