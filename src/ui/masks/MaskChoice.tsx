'use client';

import { Pencil, Plus } from 'lucide-react';
import { addMask } from '@/store/commands/masks';
import { dispatch, useDocument } from '@/store/document';
import { selectNode } from '@/store/selection';
import { IconButton } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { PlainMenu } from '../controls/PlainMenu';
import { maskStarts } from './starts';

const NONE = '';

/** The mask that something goes by: one of the scene, none, or a new one that is given to it at once. */
export function MaskChoice(props: {
  label: string;
  hint: string;
  value: string | null;
  onChange: (mask: string | null) => void;
}) {
  const { label, hint, value, onChange } = props;
  const scene = useDocument((s) => s.scene);
  const options = [
    { value: NONE, text: 'No mask' },
    ...scene.masks.map((m) => ({ value: m.id, text: m.name })),
  ];
  const begin = (text: string, layers: Parameters<typeof addMask.apply>[1]['layers']) => {
    const made = dispatch(addMask, { name: text, layers });
    if (made) onChange(made);
  };
  return (
    <div className="flex min-h-8 items-center gap-1" role="group" aria-label={label}>
      <span className="min-w-0 flex-1 truncate text-sm" title={hint}>
        {label}
      </span>
      {value !== null && scene.masks.some((m) => m.id === value) && (
        <IconButton
          name={`Edit the mask of ${label.toLowerCase()}`}
          className="!size-6"
          onClick={() => selectNode('mask', value)}
        >
          <Pencil size={13} />
        </IconButton>
      )}
      <PlainMenu
        small
        name={`New mask for ${label.toLowerCase()}`}
        entries={() => maskStarts(scene).map((s) => ({ ...s, run: () => begin(s.text, s.layers) }))}
      >
        <Plus size={15} />
      </PlainMenu>
      <Choice
        bare
        narrow
        label={label}
        hint={hint}
        value={value ?? NONE}
        options={options}
        none="missing"
        onChange={(id) => onChange(id === NONE ? null : id)}
      />
    </div>
  );
}
