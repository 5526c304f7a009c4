'use client';

import { FlipVertical2 } from 'lucide-react';
import type { MaskLayer } from '@/core/mesh/mask/schema';
import { moveLayer, removeLayer, setLayer } from '@/store/commands/masks';
import { dispatch, useDocument } from '@/store/document';
import { LAYER_NAMES } from '@/words/masks';
import { IconButton } from '../controls/Button';
import { CardHead } from '../controls/CardHead';
import { NumberPair } from '../controls/NumberPair';
import { RampField } from '../controls/RampField';
import { ENDS } from './layerFields';
import { LayerOwnFields } from './LayerOwnFields';

/** One layer of a mask: what it goes by, where it begins and ends, its ramp, turned over or off. */
export function LayerCard(props: { mask: string; layer: MaskLayer; first: boolean; last: boolean }) {
  const { mask: id, layer, first, last } = props;
  const unit = useDocument((s) => s.scene.units);
  const title = LAYER_NAMES[layer.kind];
  const set = (values: object, key?: string) => dispatch(setLayer, { id, layer: layer.id, values }, key);
  const { what, reset, ...ends } = ENDS[layer.kind];
  const hold = (v: number | null, rest: number) =>
    Math.min(ends.max ?? Infinity, Math.max(ends.min ?? -Infinity, v ?? rest));
  return (
    <div role="group" aria-label={title} className="mb-1.5 rounded-md border border-edge bg-paper px-2 py-1">
      <CardHead
        title={title}
        hint="Counts in the mask"
        on={layer.on}
        first={first}
        last={last}
        out={`Take ${title} out`}
        onSwitch={(on) => set({ on })}
        onMove={(way) => dispatch(moveLayer, { id, layer: layer.id, way })}
        onOut={() => dispatch(removeLayer, { id, layer: layer.id })}
      >
        <IconButton
          name={`Turn ${title} over`}
          aria-pressed={layer.over}
          className={`!size-6 ${layer.over ? '!text-text bg-groove' : ''}`}
          onClick={() => set({ over: !layer.over })}
        >
          <FlipVertical2 size={13} />
        </IconButton>
      </CardHead>
      {layer.on && (
        <>
          <LayerOwnFields mask={id} layer={layer} set={set} />
          <NumberPair
            label="From"
            fields={(['from', 'to'] as const).map((end, i) => ({
              ...ends,
              unit,
              short: layer.over === (i === 0) ? '1 at' : '0 at',
              label: `${title}, ${i === 0 ? 'beginning' : 'end'}`,
              hint: `${what} where it ${i === 0 ? 'begins' : 'ends'}`,
              value: layer[end],
              reset: reset[i],
              onChange: (v: number | null, key?: string) => set({ [end]: hold(v, reset[i]) }, key),
            }))}
          />
          <RampField
            label={`Ramp of ${title.toLowerCase()}`}
            hint="What lies between beginning and end becomes this"
            value={layer.ramp as [number, number][]}
            rest={0.5}
            begin={[
              [0, 0],
              [1, 1],
            ]}
            range={[0, 1]}
            dimension="percent"
            step={0.05}
            min={0}
            max={1}
            color="var(--color-moss)"
            onChange={(ramp, key) => set({ ramp }, key)}
          />
        </>
      )}
    </div>
  );
}
