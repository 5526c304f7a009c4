'use client';

import { useEffect } from 'react';
import { Plus, Trash2 } from 'lucide-react';
import { MOST_LAMPS, type Lamp } from '@/core/light/lampSchema';
import { removeLamp, setLamp } from '@/store/commands/lamps';
import { dispatch, useDocument } from '@/store/document';
import { useView } from '@/view/viewState';
import { IconButton } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { LinkScope } from '../controls/LinkScope';
import { NameField } from '../controls/NameField';
import { lengthField, NumberFields, PlaceField } from '../controls/NumberFields';
import { PlainMenu } from '../controls/PlainMenu';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { angle, share, warmth } from './fields';
import { putIn } from './putIn';

const KINDS = [
  { value: 'point', text: 'Point' },
  { value: 'area', text: 'Area' },
  { value: 'spot', text: 'Spot' },
] as const;
const FIELDS = [
  share(
    'strength',
    'Strength',
    '100: what stands a metre before it is as bright by it as by a clear day’s sun',
  ),
  warmth(3200),
  lengthField('size', 'Size', 0.2, 'From side to side: larger ones throw softer shadows'),
];
const SPREAD = angle('spreadDeg', 'Spread', 50, 'How wide its cone is', 1, 160);
/** Lights that are put into the scene by hand: a list of them, and what the chosen one is. */
export function OwnLights() {
  // Its arms are there as long as the panel is.
  useEffect(() => () => useView.setState({ lamp: null }), []);
  const lamps = useDocument((s) => s.scene.lamps);
  const chosen = useView((s) => s.lamp);
  const choose = (id: string) => useView.setState({ lamp: id === chosen ? null : id });
  return (
    <section aria-label="Lights put in" className="mb-2 border-b border-edge pb-2">
      <header className="flex items-center justify-between">
        <h3 className="font-display text-sm font-semibold">Lights put in</h3>
        <PlainMenu
          name="Put in a light"
          entries={[
            { text: 'Point', hint: 'Shines to all sides', run: () => putIn('point') },
            { text: 'Area', hint: 'A disc that shines softly to its front', run: () => putIn('area') },
            { text: 'Spot', hint: 'A cone', run: () => putIn('spot') },
            {
              text: 'Main, fill and back',
              hint: 'Three around what is selected, turned to it',
              under: 'A set',
              run: () => putIn('set'),
            },
          ]}
        >
          <Plus size={16} />
        </PlainMenu>
      </header>
      {lamps.length === 0 && (
        <p className="text-[12.5px] text-soft">None. Up to {MOST_LAMPS}; props glow besides.</p>
      )}
      <ul>
        {lamps.map((lamp) => (
          <li key={lamp.id}>
            <div className="flex items-center gap-1">
              <button
                type="button"
                aria-expanded={lamp.id === chosen}
                title="Shows its settings, and its arms in the scene"
                onClick={() => choose(lamp.id)}
                className="min-w-0 flex-1 truncate rounded-md px-1 py-1 text-left text-sm hover:bg-groove aria-expanded:font-semibold"
              >
                {lamp.name}{' '}
                <span className="ml-1 text-[12px] font-normal text-soft">{lamp.on ? lamp.kind : 'off'}</span>
              </button>
              <IconButton name={`Remove ${lamp.name}`} onClick={() => dispatch(removeLamp, { id: lamp.id })}>
                <Trash2 size={14} />
              </IconButton>
            </div>
            {lamp.id === chosen && <LampFields lamp={lamp} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function LampFields({ lamp }: { lamp: Lamp }) {
  const { id, kind } = lamp;
  const set = (values: Partial<Omit<Lamp, 'id'>>, key?: string) => dispatch(setLamp, { id, values }, key);
  return (
    <LinkScope node={id} at="">
      <div className="rounded-lg bg-well px-2 py-1.5">
        <NameField name={lamp.name} onRename={(name) => set({ name })} />
        <Toggle label="On" hint="Whether it gives light" value={lamp.on} onChange={(on) => set({ on })} />
        <Segmented
          shown
          label="Kind"
          hint="To all sides, softly to its front, or a cone"
          value={kind}
          options={KINDS}
          onChange={(to) => set({ kind: to })}
        />
        <PlaceField
          shown
          label="Light at"
          hint="Where it is: arms in the scene move it as well"
          value={lamp.at}
          onChange={(at, key) => set({ at }, key)}
        />
        {kind !== 'point' && <Aim lamp={lamp} set={set} />}
        <NumberFields
          within=""
          fields={kind === 'spot' ? [...FIELDS, SPREAD] : FIELDS}
          values={lamp}
          set={set}
        />
        <Toggle
          label="Seen"
          hint="Whether pictures show the light itself"
          value={lamp.seen}
          onChange={(seen) => set({ seen })}
        />
      </div>
    </LinkScope>
  );
}

/** What a light is turned to: a thing, wherever that goes, or a place. */
function Aim(p: { lamp: Lamp; set: (values: Partial<Lamp>, key?: string) => void }) {
  const scene = useDocument((s) => s.scene);
  const { aim, aimedAt } = p.lamp;
  const things = [...scene.arrangements, ...scene.surfaces, ...scene.paths];
  return (
    <>
      <Choice
        label="Aimed at"
        hint="It stays turned to a thing, wherever that goes"
        value={aimedAt ?? ''}
        none="What is gone"
        options={[{ value: '', text: 'A place' }, ...things.map((n) => ({ value: n.id, text: n.name }))]}
        onChange={(to) => p.set({ aimedAt: to === '' ? null : to })}
      />
      {aimedAt === null && (
        <PlaceField
          shown
          label="Aim"
          hint="Where it is turned to"
          value={aim}
          onChange={(to, key) => p.set({ aim: to }, key)}
        />
      )}
    </>
  );
}
