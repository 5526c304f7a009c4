'use client';

import type { Deformer } from '@/core/mesh/deform/schema';
import { useDocument } from '@/store/document';
import { chooseTool, useView } from '@/view/viewState';
import { Button } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { lengthField, NumberFields } from '../../../controls/NumberFields';
import { Toggle } from '../../../controls/Toggle';

type Cloth = Extract<Deformer, { kind: 'cloth' }>;

const SIDES = [
  { value: 'v0', text: 'Side v 0' },
  { value: 'v1', text: 'Side v 1' },
  { value: 'u0', text: 'Side u 0' },
  { value: 'u1', text: 'Side u 1' },
] as const;

/** Where cloth is held, what it hangs on, and what it falls on. */
export function ClothFields({
  surface,
  cloth: d,
  set,
}: {
  surface: string;
  cloth: Cloth;
  set: (values: Partial<Cloth>, key?: string) => void;
}) {
  const surfaces = useDocument((s) => s.scene.surfaces);
  const paths = useDocument((s) => s.scene.paths);
  const holding = useView((s) => s.tool === 'hold');
  return (
    <>
      <div className="flex min-h-8 items-center justify-between gap-2 text-sm">
        Held
        <span className="flex gap-1" role="group" aria-label="Held sides">
          {SIDES.map(({ value, text }) => {
            const on = d.sides.includes(value);
            return (
              <button
                key={value}
                type="button"
                aria-label={text}
                aria-pressed={on}
                title={text}
                onClick={() => set({ sides: on ? d.sides.filter((s) => s !== value) : [...d.sides, value] })}
                className={`rounded-md border px-1.5 py-0.5 text-[12px] ${on ? 'border-on bg-on text-paper' : 'border-edge'}`}
              >
                {text.slice(5)}
              </button>
            );
          })}
        </span>
      </div>
      {d.sides.length > 0 && (
        <Toggle
          label="Corners only"
          hint="Of these sides only the ends are held"
          value={d.cornersOnly}
          onChange={(cornersOnly) => set({ cornersOnly })}
        />
      )}
      <div className="flex items-center justify-between gap-2">
        <Button
          look={holding ? 'ink' : 'bordered'}
          className="!text-[12.5px]"
          title="Click places of the cloth to hold them, and again to let them go"
          onClick={() => chooseTool(holding ? 'pick' : 'hold')}
        >
          {holding ? 'Done' : 'Hold places'}
        </Button>
        <span className="num text-[12.5px] text-soft">{d.holds.length} held</span>
        {d.holds.length > 0 && (
          <Button
            look="bordered"
            title="Lets all held places go"
            className="!text-[12.5px]"
            onClick={() => set({ holds: [] })}
          >
            Let go
          </Button>
        )}
      </div>
      {d.sides.length > 0 && (
        <Choice
          label="Hangs along"
          hint="A path that holds the edge of the cloth"
          value={d.line ?? ''}
          options={[
            { value: '', text: 'Where it lies' },
            ...paths.map((p) => ({ value: p.id, text: p.name })),
          ]}
          none="Missing path"
          onChange={(id) => set({ line: id || null })}
        />
      )}
      <Choice
        label="Falls on"
        hint="A surface that the cloth lies down on"
        value={d.collider ?? ''}
        options={[
          { value: '', text: 'Nothing' },
          ...surfaces.filter((s) => s.id !== surface).map((s) => ({ value: s.id, text: s.name })),
        ]}
        none="Missing surface"
        onChange={(id) => set({ collider: id || null })}
      />
      <Toggle
        label="Not through itself"
        hint="Its folds lie on each other; it takes longer to be worked out"
        value={d.itself}
        onChange={(itself) => set({ itself })}
      />
      {d.itself && (
        <NumberFields
          fields={[
            {
              ...lengthField('apart', 'Folds apart by', 0.03, 'Metres that the cloth keeps off itself'),
              min: 0.0001,
            },
          ]}
          values={d}
          set={(values, key) => set(values as Partial<Cloth>, key)}
        />
      )}
      {d.collider && (
        <NumberFields
          fields={[lengthField('thickness', 'Stays off it by', 0.01, 'Metres that the cloth keeps from it')]}
          values={d}
          set={(values, key) => set(values as Partial<Cloth>, key)}
        />
      )}
    </>
  );
}
