'use client';

import { Brush as BrushIcon } from 'lucide-react';
import { maskGiven } from '@/store/commands/masks';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { paintTarget, surfacePainted } from '@/view/masks/paintTool';
import { setBrush, useView } from '@/view/viewState';
import { NumberBox } from '../controls/NumberField';
import { Segmented } from '../controls/Segmented';

const DOES = [
  { value: 'add', text: 'Add' },
  { value: 'take', text: 'Take away' },
  { value: 'smooth', text: 'Smooth', hint: 'Evens out what is painted' },
] as const;
const WHAT = [
  {
    value: 'density',
    text: 'How many',
    hint: 'More where it is painted; what runs and sheets leave out are gaps',
  },
  { value: 'size', text: 'How large', hint: 'Larger where it is painted' },
] as const;

/** While one paints: what the brush does, how large and strong it is, and what it paints. */
export function PaintOptions() {
  const brush = useView((s) => s.brush);
  const scene = useDocument((s) => s.scene);
  // What is painted follows the selection.
  useSelection((s) => s.node);
  useSelection((s) => s.arrangement);
  const target = paintTarget();
  const mask = target && 'layer' in target && scene.masks.find((m) => m.id === target.layer.mask);
  const own = brush.layer !== null && mask;
  const lies = target && 'layer' in target ? surfacePainted(target.layer) : null;
  // Where there is one surface there is nothing to say of it.
  const on = scene.surfaces.length > 1 ? scene.surfaces.find((s) => s.id === lies)?.name : undefined;
  const box = { dimension: 'percent' as const, step: 0.05, min: 0.01, max: 1, className: 'w-[92px]' };
  return (
    <div className="absolute inset-x-0 top-[70px] mx-auto flex w-fit max-w-[96%] flex-col items-center gap-1.5">
      <div className="flex flex-wrap items-center gap-1.5 rounded-lg bg-paper/95 px-2 py-1 text-[12.5px] shadow">
        <Segmented
          label="The brush"
          hint="What a stroke does; with Shift it takes away"
          value={brush.does}
          options={DOES}
          onChange={(does) => setBrush({ does })}
        />
        {!own && (
          <Segmented
            label="Paints"
            hint="What of the arrangement in hand is painted"
            value={brush.what}
            options={WHAT}
            onChange={(what) => setBrush({ what, layer: null })}
          />
        )}
        <NumberBox
          label="Brush radius"
          prefix="radius"
          dimension="length"
          unit={scene.units}
          step={0.1}
          value={brush.radius}
          className="w-[122px]"
          onChange={(v) => v !== null && v > 0 && setBrush({ radius: v })}
        />
        <NumberBox
          {...box}
          label="Brush strength"
          prefix="strength"
          value={brush.strength}
          className="w-[122px]"
          onChange={(v) => v !== null && setBrush({ strength: Math.min(1, Math.max(0.01, v)) })}
        />
        <NumberBox
          {...box}
          label="Brush softness"
          prefix="soft"
          value={brush.softness}
          onChange={(v) => v !== null && setBrush({ softness: Math.min(1, Math.max(0, v)) })}
        />
      </div>
      <div
        className="flex items-center gap-2 rounded-lg bg-paper/95 px-3 py-1.5 text-[12.5px] shadow"
        role="status"
      >
        <BrushIcon size={13} aria-hidden />
        {scene.surfaces.length === 0
          ? 'There is no surface to paint on yet. Make one, or bring one in.'
          : !target
            ? 'Take an arrangement or a mask in hand first: the brush paints where its props are.'
            : 'layer' in target
              ? `Paints ${mask ? `“${mask.name}”` : ''}${on ? ` on “${on}” alone` : ''}. Shift takes away; the wheel sizes, with Alt it strengthens.`
              : maskGiven(target.arrangement, brush.what)
                ? `The first stroke gives the mask of “${target.arrangement.name}” a painted layer: take away what it leaves, with Shift.`
                : `Paints where “${target.arrangement.name}” stands; the first stroke gives it a mask. Shift takes away.`}
      </div>
    </div>
  );
}
