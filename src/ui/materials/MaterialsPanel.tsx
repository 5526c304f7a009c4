'use client';

import { Copy, Plus, Trash2 } from 'lucide-react';
import type { Material } from '@/core/mesh/materialSchema';
import { wearers } from '@/core/scene/worn';
import { addMaterial, removeMaterial } from '@/store/commands/materials';
import { dispatch, useDocument } from '@/store/document';
import { selectNodes, type NodeRef } from '@/store/selection';
import { BesidePanel } from '../controls/BesidePanel';
import { IconButton } from '../controls/Button';
import { PlainMenu } from '../controls/PlainMenu';
import { plural } from '@/words/numbers';
import { MaterialFields } from './MaterialFields';
import { useShownMaterial } from './shown';
import { MATERIAL_STARTS } from './starts';

const show = (id: string | null) => useShownMaterial.setState({ id });

/** All materials made by hand: what they are, and what wears them. */
export function MaterialsPanel() {
  const materials = useDocument((s) => s.scene.materials);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const shown = useShownMaterial((s) => s.id);
  return (
    <BesidePanel name="Materials" title="Materials" said={plural(materials.length, 'material')}>
      <fieldset
        disabled={readOnly}
        className="flex items-center gap-1 border-b border-edge px-3 py-2 text-sm"
      >
        <PlainMenu
          name="New material"
          entries={MATERIAL_STARTS.map(({ values, hint }) => ({
            text: values.name,
            hint,
            run: () => show(dispatch(addMaterial, { values }) ?? null),
          }))}
        >
          <Plus size={16} />
        </PlainMenu>
        New material
      </fieldset>
      <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-3 py-2">
        {materials.length === 0 && (
          <p className="text-[13px] text-soft">
            None yet. Make one here or where something is selected: props, surfaces and whole arrangements
            wear it, and change with it.
          </p>
        )}
        <ul>
          {materials.map((m) => (
            <li key={m.id}>
              <div className="flex items-center gap-1">
                <button
                  type="button"
                  aria-expanded={m.id === shown}
                  title="Shows what it is"
                  onClick={() => show(m.id === shown ? null : m.id)}
                  className="flex min-w-0 flex-1 items-center gap-2 rounded-md px-1 py-1 text-left text-sm hover:bg-groove aria-expanded:font-semibold"
                >
                  <Swatch material={m} />
                  <span className="truncate">{m.name}</span>
                </button>
                <IconButton
                  name={`Copy ${m.name}`}
                  disabled={readOnly}
                  onClick={() => show(dispatch(addMaterial, { values: m }) ?? null)}
                >
                  <Copy size={14} />
                </IconButton>
                <IconButton
                  name={`Remove ${m.name}`}
                  disabled={readOnly}
                  onClick={() => dispatch(removeMaterial, { id: m.id })}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {m.id === shown && (
                <fieldset disabled={readOnly} className="rounded-lg bg-well px-2 py-1.5">
                  <MaterialFields material={m} />
                  <WornBy material={m} />
                </fieldset>
              )}
            </li>
          ))}
        </ul>
      </div>
    </BesidePanel>
  );
}

/** Its colour, as a small ball: shiny where it shines. */
function Swatch({ material: { color, roughness, metal, glow } }: { material: Material }) {
  const base = color ?? 'var(--color-linen-300)';
  const light =
    metal > 0.5 ? '#ffffff' : `color-mix(in srgb, #ffffff ${Math.round(90 - 70 * roughness)}%, ${base})`;
  return (
    <span
      aria-hidden
      className="size-4 shrink-0 rounded-full border border-edge"
      style={{
        background: `radial-gradient(circle at 35% 30%, ${light}, ${base} ${Math.round(25 + 45 * roughness)}%, color-mix(in srgb, #000000 35%, ${base}))`,
        boxShadow: glow ? `0 0 6px 1px ${glow.color}` : undefined,
      }}
    />
  );
}

/** What wears it: each is selected by a click. */
function WornBy({ material }: { material: Material }) {
  const scene = useDocument((s) => s.scene);
  const all = wearers(scene, material.id);
  const kindOf = (id: string): NodeRef['kind'] =>
    scene.props.some((p) => p.id === id)
      ? 'prop'
      : scene.surfaces.some((s) => s.id === id)
        ? 'surface'
        : 'arrangement';
  if (all.length === 0) return <p className="py-1 text-[12.5px] text-soft">Nothing wears it yet.</p>;
  return (
    <p className="py-1 text-[12.5px] text-soft">
      Worn by{' '}
      {all.map((n, i) => (
        <span key={n.id}>
          {i > 0 && ', '}
          <button
            type="button"
            title="Selects it"
            className="underline"
            onClick={() => selectNodes([{ kind: kindOf(n.id), id: n.id }])}
          >
            {n.name}
          </button>
        </span>
      ))}
    </p>
  );
}
