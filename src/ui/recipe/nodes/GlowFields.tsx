'use client';

import { glowSchema, type Glow } from '@/core/light/lampSchema';
import { setGlow } from '@/store/commands/lamps';
import { dispatch } from '@/store/document';
import { ColorField } from '../../controls/ColorField';
import { NumberFields } from '../../controls/NumberFields';
import { Toggle } from '../../controls/Toggle';
import { share } from '../../light/fields';

const NEW = glowSchema.parse({});
const STRENGTH = share(
  'strength',
  'Strength of the glow',
  '100: what stands a metre off is as bright by it as by a clear day’s sun',
  NEW.strength,
);

/** A prop’s own light: whether it has any, its colour, and how strong it is. */
export function GlowFields({ id, glow }: { id: string; glow: Glow | null }) {
  const set = (values: Partial<Glow>, key?: string) =>
    dispatch(setGlow, { id, glow: { ...NEW, ...glow, ...values } }, key);
  return (
    <section aria-label="Glow">
      <Toggle
        label="Glows"
        hint="It gives light of its own: every copy of it lights what is around"
        value={glow !== null}
        onChange={(on) => dispatch(setGlow, { id, glow: on ? NEW : null })}
      />
      {glow && (
        <>
          <ColorField
            name="Colour of the glow"
            hint="Copies that are tinted glow in their tint of it"
            value={glow.color}
            onChange={(color) => set({ color }, `glow ${id}`)}
          />
          <NumberFields fields={[STRENGTH]} values={glow} set={set} />
        </>
      )}
    </section>
  );
}
