'use client';

import { Brush as BrushIcon } from 'lucide-react';
import type { Arrangement } from '@/core/arrange/registry';
import type { Scene } from '@/core/scene/schema';
import { maskGiven } from '@/store/commands/masks';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { brushProp, canPaint, paintTarget, surfacePainted, type Target } from '@/view/masks/paintTool';
import { setBrush, useView, type Brush } from '@/view/viewState';
import { Choice } from '../controls/Choice';
import { NumberBox } from '../controls/NumberField';
import { Segmented } from '../controls/Segmented';

type Does = 'add' | 'take' | 'smooth';

/** What a stroke does, by what it paints. */
const DOES: Record<Brush['what'], readonly { value: Does; text: string; hint?: string }[]> = {
  density: [
    { value: 'add', text: 'Add' },
    { value: 'take', text: 'Take away' },
    { value: 'smooth', text: 'Smooth', hint: 'Evens out what is painted' },
  ],
  get size() {
    return this.density;
  },
  turn: [
    { value: 'add', text: 'Comb', hint: 'They face the way that the stroke runs' },
    { value: 'take', text: 'Uncomb', hint: 'They face as their heading says again' },
  ],
  prop: [
    { value: 'add', text: 'Give', hint: 'The prop stands there, by the strength as a share' },
    { value: 'take', text: 'Take back', hint: 'What was drawn stands there again' },
  ],
  slots: [
    { value: 'add', text: 'Take in' },
    { value: 'take', text: 'Leave out' },
  ],
};
const WHAT = [
  { value: 'density', text: 'How many' },
  { value: 'size', text: 'How large' },
  { value: 'turn', text: 'Which way' },
  { value: 'prop', text: 'Which prop' },
  { value: 'slots', text: 'Selection' },
] as const;

/** While one paints: what the brush does, how large and strong it is, and what it paints. */
export function PaintOptions() {
  const brush = useView((s) => s.brush);
  const scene = useDocument((s) => s.scene);
  // What is painted follows the selection.
  useSelection((s) => s.node);
  const arrangement = useSelection((s) => s.arrangement);
  const target = paintTarget();
  const own = brush.layer !== null && target !== null && 'layer' in target;
  const what = target && 'layer' in target ? 'density' : brush.what;
  const inHand = scene.arrangements.find((a) => a.id === arrangement);
  const box = { dimension: 'percent' as const, step: 0.05, min: 0.01, max: 1, className: 'w-[88px]' };
  return (
    <div className="absolute inset-x-0 top-[70px] mx-auto flex w-fit max-w-[96%] flex-col items-center gap-1.5">
      <div className="flex flex-wrap items-center justify-center gap-1.5 rounded-lg bg-paper/95 px-2 py-1 text-[12.5px] shadow">
        {!own && (
          <Choice
            bare
            narrow
            label="Paints"
            hint="What of the arrangement in hand is painted"
            value={brush.what}
            options={WHAT}
            onChange={(what) => setBrush({ what, layer: null, does: 'add' })}
          />
        )}
        <Segmented
          label="The brush"
          hint="What a stroke does; with Shift it takes away"
          value={brush.does}
          options={DOES[what]}
          onChange={(does) => setBrush({ does })}
        />
        {what === 'prop' && scene.props.length > 0 && (
          <Choice
            bare
            narrow
            label="Prop of the brush"
            hint="What stands where it is brushed"
            value={brushProp()!}
            options={scene.props.map((p) => ({ value: p.id, text: p.name }))}
            onChange={(prop) => setBrush({ prop })}
          />
        )}
        <NumberBox
          label="Brush radius"
          prefix="radius"
          dimension="length"
          unit={scene.units}
          step={0.1}
          value={brush.radius}
          className="w-[118px]"
          onChange={(v) => v !== null && v > 0 && setBrush({ radius: v })}
        />
        {/* What is selected is so or not. */}
        {what !== 'slots' && (
          <>
            <NumberBox
              {...box}
              label="Brush strength"
              prefix="strength"
              value={brush.strength}
              className="w-[124px]"
              onChange={(v) => v !== null && setBrush({ strength: Math.min(1, Math.max(0.01, v)) })}
            />
            <NumberBox
              {...box}
              label="Brush softness"
              prefix="soft"
              value={brush.softness}
              onChange={(v) => v !== null && setBrush({ softness: Math.min(1, Math.max(0, v)) })}
            />
          </>
        )}
      </div>
      <div
        className="flex items-center gap-2 rounded-lg bg-paper/95 px-3 py-1.5 text-[12.5px] shadow"
        role="status"
      >
        <BrushIcon size={13} aria-hidden />
        {told(scene, target, inHand, what)}
      </div>
    </div>
  );
}

/** What the brush would do now, or what it waits for. */
function told(
  scene: Scene,
  target: Target | null,
  inHand: Arrangement | undefined,
  what: Brush['what'],
): string {
  if (scene.surfaces.length === 0) return 'There is no surface to paint on yet. Make one, or bring one in.';
  if (!target && !inHand)
    return 'Take an arrangement or a mask in hand first: the brush paints where its props are.';
  if (!target && what === 'prop' && canPaint(inHand, what))
    return 'There is no prop in the basket yet: take one from the library.';
  if (!target)
    return what === 'turn' || what === 'prop'
      ? `Only what is scattered is ${what === 'turn' ? 'combed' : 'given props by the brush'}; “${inHand!.name}” is not.`
      : `“${inHand!.name}” has nothing that is painted so.`;
  if ('layer' in target) {
    const mask = scene.masks.find((m) => m.id === target.layer.mask);
    const lies = surfacePainted(target.layer);
    // Where there is one surface there is nothing to say of it.
    const on = scene.surfaces.length > 1 ? scene.surfaces.find((s) => s.id === lies)?.name : undefined;
    return `Paints ${mask ? `“${mask.name}”` : ''}${on ? ` on “${on}” alone` : ''}. Shift takes away; the wheel sizes, with Alt it strengthens.`;
  }
  const { name } = target.arrangement;
  if (target.what === 'turn') return `“${name}” turns the way that a stroke runs. Shift turns it back.`;
  if (target.what === 'prop') {
    const prop = scene.props.find((p) => p.id === target.prop)?.name;
    return `${prop} stands where it is brushed on “${name}”. Shift takes it back.`;
  }
  if (target.what === 'slots')
    return `What of “${name}” comes under the brush is selected. Shift leaves it out.`;
  return maskGiven(target.arrangement, target.what)
    ? `The first stroke gives the mask of “${name}” a painted layer: take away what it leaves, with Shift.`
    : `Paints where “${name}” stands; the first stroke gives it a mask. Shift takes away.`;
}
