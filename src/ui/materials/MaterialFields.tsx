'use client';

import type { Material } from '@/core/mesh/materialSchema';
import { setMaterial } from '@/store/commands/materials';
import { dispatch } from '@/store/document';
import { Button } from '../controls/Button';
import { ColorField } from '../controls/ColorField';
import { FileField, PICTURES } from '../controls/FileField';
import { NameField } from '../controls/NameField';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { takePicture } from '../controls/takePicture';
import { Toggle } from '../controls/Toggle';
import { GlowFields } from '../light/GlowFields';

const share = (name: string, label: string, hint: string, reset: number): FieldSpec => ({
  ...{ name, label, hint, step: 0.05, min: 0, max: 1, reset },
  dimension: 'percent',
});
const SHINE = [
  share('roughness', 'Roughness', '0 mirrors, 100 is as dull as chalk', 0.6),
  share('metal', 'Metal', '100: it reflects in its own colour, as metals do', 0),
];
const times = (name: string, along: string): FieldSpec => ({
  ...{ name, label: `Times along ${along}`, hint: `How often the picture goes along ${along}` },
  ...{ step: 1, min: 0.001, max: 10000, reset: 1 },
});
const REPEATS = [times('repeatU', 'u'), times('repeatV', 'v')];
/** The colour that one without any gets. */
const PLAIN = '#d9cdb8';

/** What a material is: its colour, how it shines, its glow, its picture. */
export function MaterialFields({ material: m }: { material: Material }) {
  const set = (values: Partial<Omit<Material, 'id'>>, key?: string) =>
    dispatch(setMaterial, { id: m.id, values }, key);
  return (
    <>
      <NameField name={m.name} onRename={(name) => set({ name })} />
      <Toggle
        label="Own colours"
        hint="What wears it keeps its own colours and pictures"
        value={m.color === null}
        onChange={(on) => set({ color: on ? null : PLAIN })}
      />
      {m.color !== null && (
        <ColorField
          name="Colour of the material"
          hint="Times its picture, where it has one"
          value={m.color}
          onChange={(color) => set({ color }, `material ${m.id}`)}
        />
      )}
      <NumberFields fields={SHINE} values={m} set={set} />
      <FileField
        label="Picture"
        name="Picture of the material"
        hint="A PNG or JPEG, laid on by the texture coordinates of what wears it"
        fileName={m.picture?.fileName}
        accept={PICTURES}
        onTake={async (bytes, fileName) => set({ picture: await takePicture(bytes, fileName) })}
      />
      {m.picture && (
        <>
          <NumberFields fields={REPEATS} values={m} set={set} />
          <Button title="Has no picture any more" className="!px-1" onClick={() => set({ picture: null })}>
            Take the picture off
          </Button>
        </>
      )}
      <GlowFields of={m.id} glow={m.glow} onChange={(glow, key) => set({ glow }, key)} />
    </>
  );
}
