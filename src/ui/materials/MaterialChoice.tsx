'use client';

import { Palette, Plus } from 'lucide-react';
import { addMaterial, wear } from '@/store/commands/materials';
import { dispatch, useDocument } from '@/store/document';
import { IconButton } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { PlainMenu } from '../controls/PlainMenu';
import { showMaterial } from './shown';
import { MATERIAL_STARTS } from './starts';

const OWN = '';

/** The material that nodes wear: their own look, one of the scene, or a new one that they wear at once. */
export function MaterialChoice({
  ids,
  value,
  own = 'Own look',
}: {
  ids: string[];
  value: string | null;
  own?: string;
}) {
  const materials = useDocument((s) => s.scene.materials);
  const options = [{ value: OWN, text: own }, ...materials.map((m) => ({ value: m.id, text: m.name }))];
  const begin = (values: (typeof MATERIAL_STARTS)[number]['values']) => {
    const made = dispatch(addMaterial, { values, wornBy: ids });
    if (made) showMaterial(made);
  };
  return (
    <div className="flex min-h-8 items-center gap-1" role="group" aria-label="Material">
      <span
        className="min-w-0 flex-1 truncate text-sm"
        title="Made by hand, by its name: what wears it changes with it"
      >
        Material
      </span>
      {value !== null && materials.some((m) => m.id === value) && (
        <IconButton name="Edit the material" className="!size-6" onClick={() => showMaterial(value)}>
          <Palette size={13} />
        </IconButton>
      )}
      <PlainMenu
        small
        name="New material"
        entries={MATERIAL_STARTS.map(({ values, hint }) => ({
          text: values.name,
          hint,
          run: () => begin(values),
        }))}
      >
        <Plus size={15} />
      </PlainMenu>
      <Choice
        bare
        narrow
        label="Worn material"
        hint="Its own look, or a material made by hand"
        value={value ?? OWN}
        options={options}
        none={value === 'several' ? 'Several' : 'missing'}
        onChange={(id) => dispatch(wear, { ids, material: id === OWN ? null : id })}
      />
    </div>
  );
}
