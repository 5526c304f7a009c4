'use client';

import { Plus } from 'lucide-react';
import { usersOfMask } from '@/core/evaluate/masksUsed';
import { addLayer, setMask } from '@/store/commands/masks';
import { nodesOf } from '@/store/commands/find';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectArrangement, selectNode } from '@/store/selection';
import { setShades, useView } from '@/view/viewState';
import { sentence } from '@/words/findings';
import { plural } from '@/words/numbers';
import { PlainMenu } from '../controls/PlainMenu';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { maskEntries } from '../menus/entries';
import { NodeHead } from '../recipe/nodes/NodeHead';
import { LayerCard } from './LayerCard';
import { maskStarts } from './starts';

const COMBINE = [
  { value: 'product', text: 'All', hint: 'Multiplied: each takes its part away' },
  { value: 'largest', text: 'Any', hint: 'The largest of them' },
  { value: 'difference', text: 'Less', hint: 'The first, less each of the others' },
] as const;

/** A mask: its layers, how they are put together, and what goes by it. */
export function MaskPanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const mask = scene.masks.find((m) => m.id === id);
  const findings = useEngine((s) => s.result.masks.get(id)?.findings);
  const kept = useView((s) => s.shades === id);
  if (!mask) return null;
  const users = usersOfMask(scene, id);
  const named = nodesOf(scene).filter((n) => users.includes(n.id));
  return (
    <>
      <NodeHead
        name={mask.name}
        kind="mask"
        color="var(--color-linen-300)"
        detail={`${plural(mask.layers.length, 'layer')} · ${users.length === 0 ? 'nothing goes by it yet' : `${plural(users.length, 'thing')} ${users.length === 1 ? 'goes' : 'go'} by it`}`}
        onRename={(name) => dispatch(setMask, { id, values: { name } })}
        menu={() => maskEntries(mask)}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-h-0 min-w-0 flex-1 overflow-y-auto px-3 py-2">
        {findings?.map((f, i) => (
          <p key={i} role="alert" className="mb-2 text-[13px] text-danger">
            {sentence(f, scene)}
          </p>
        ))}
        <Toggle
          label="Keep in shades"
          hint="On the surfaces that it is read on, whatever is in hand: yellow where it is 1, dark where it is 0"
          value={kept}
          onChange={(on) => setShades(on ? id : null)}
        />
        <div className="mb-1 mt-2 flex items-center justify-between">
          <h3 className="font-display text-sm font-semibold">Layers</h3>
          <PlainMenu
            name="Add a layer"
            entries={() =>
              maskStarts(scene).map(({ text, hint, layers }) => ({
                text,
                hint,
                run: () => void dispatch(addLayer, { id, layer: layers[0] }),
              }))
            }
          >
            <Plus size={15} />
          </PlainMenu>
        </div>
        {mask.layers.length > 1 && (
          <div className="mb-2">
            <Segmented
              fill
              label="Together"
              hint="How the layers are put together"
              value={mask.combine}
              options={COMBINE}
              onChange={(combine) => dispatch(setMask, { id, values: { combine } })}
            />
          </div>
        )}
        {mask.layers.length === 0 && (
          <p className="text-[12.5px] text-soft">Without layers it lets everything pass. Add one.</p>
        )}
        {mask.layers.map((layer, i) => (
          <LayerCard
            key={layer.id}
            mask={id}
            layer={layer}
            first={i === 0}
            last={i === mask.layers.length - 1}
          />
        ))}
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Goes by it</h3>
        {named.length === 0 && (
          <p className="text-[12.5px] text-soft">
            Nothing yet. Choose it under Spread, Gaps or Variation of an arrangement, or at a deformer of a
            surface.
          </p>
        )}
        <ul>
          {named.map((n) => (
            <li key={n.id}>
              <button
                type="button"
                title="Takes it in hand"
                className="block w-full truncate rounded px-1 py-0.5 text-left text-[13px] hover:bg-well"
                onClick={() => ('kind' in n ? selectArrangement(n.id) : selectNode('surface', n.id))}
              >
                {n.name}
              </button>
            </li>
          ))}
        </ul>
      </fieldset>
    </>
  );
}
