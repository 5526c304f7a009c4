'use client';

import { glowSchema, type Glow } from '@/core/light/lampSchema';
import { ColorField } from '../controls/ColorField';
import { NumberFields } from '../controls/NumberFields';
import { Toggle } from '../controls/Toggle';
import { share } from './fields';

const NEW = glowSchema.parse({});
const STRENGTH = share(
  'strength',
  'Strength of the glow',
  '100: what stands a metre off is as bright by it as by a clear day’s sun',
  NEW.strength,
);

/** The light of a prop’s own, or of what it wears: whether there is any, its colour, and how strong it is. */
export function GlowFields(props: {
  glow: Glow | null;
  /** What it is the glow of, for the undo list. */
  of: string;
  onChange: (glow: Glow | null, key?: string) => void;
}) {
  const { glow, of, onChange } = props;
  const set = (values: Partial<Glow>, key?: string) => onChange({ ...NEW, ...glow, ...values }, key);
  return (
    <section aria-label="Glow">
      <Toggle
        label="Glows"
        hint="It gives light of its own: every copy of it lights what is around"
        value={glow !== null}
        onChange={(on) => onChange(on ? NEW : null)}
      />
      {glow && (
        <>
          <ColorField
            name="Colour of the glow"
            hint="Copies that are tinted glow in their tint of it"
            value={glow.color}
            onChange={(color) => set({ color }, `glow ${of}`)}
          />
          <NumberFields fields={[STRENGTH]} values={glow} set={set} />
        </>
      )}
    </section>
  );
}
