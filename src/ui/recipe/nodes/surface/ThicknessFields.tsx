'use client';

import { useEffect, useState } from 'react';
import type { SolidFacts } from '@/core/mesh/solid/facts';
import type { Thickness } from '@/core/mesh/solid/thicknessSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setThickness } from '@/store/commands/surfaces';
import { dispatch } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { LinkScope } from '../../../controls/LinkScope';
import { lengthField, NumberFields } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { giveThickness } from './giveThickness';

const FIELDS = [
  { ...lengthField('outwards', 'Outwards', 0, 'How far its outer side is off the surface'), step: 0.01 },
  { ...lengthField('inwards', 'Inwards', 0.05, 'How far its inner side is off the surface'), step: 0.01 },
];

/** How thick a surface is, and what it is as a body. */
export function ThicknessFields({ surface: { id, thickness } }: { surface: Surface }) {
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
      <Body id={id} />
    </section>
  );
}

/** Milliseconds that it has to rest: what it is as a body takes longer to find out than a frame does. */
const REST = 250;

/** What it is as a body, told when it rests. */
function Body({ id }: { id: string }) {
  const key = useEngine((s) => s.result.surfaces.get(id)?.key);
  const [facts, setFacts] = useState<SolidFacts | null>(null);
  useEffect(() => {
    if (key === undefined) return;
    let current = true;
    const rested = setTimeout(
      () =>
        void engine()
          .solidOf(id)
          .then((found) => current && setFacts(found)),
      REST,
    );
    return () => {
      current = false;
      clearTimeout(rested);
    };
  }, [id, key]);
  return facts && <p className="text-[12.5px] text-soft">{bodyText(facts)}</p>;
}

/** "Closed: 0.6 m³ within 13 m² of faces." */
function bodyText({ closed, open, unsound, volume, area }: SolidFacts): string {
  const short = (v: number) => Number(v.toPrecision(4)).toLocaleString('en-GB');
  const faces = `${short(area)} m² of faces`;
  if (closed && volume !== null)
    return volume < 0
      ? `Closed, but inside out: ${short(-volume)} m³ within ${faces}.`
      : `Closed: ${short(volume)} m³ within ${faces}.`;
  const why = [
    open > 0 && `${plural(open, 'edge')} at its borders`,
    unsound > 0 && `${plural(unsound, 'edge')} where more than two faces meet, or disagree`,
  ].filter(Boolean);
  return `Open, ${faces}: ${why.join(', ')}.`;
}
