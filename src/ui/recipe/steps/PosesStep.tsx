'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { newPoses, type Poses } from '@/core/arrange/poses/schema';
import { setPoses } from '@/store/commands/poses';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { Choice } from '../../controls/Choice';
import { NumberField } from '../../controls/NumberField';
import { RangeField } from '../../controls/RangeField';
import { Segmented } from '../../controls/Segmented';
import { Toggle } from '../../controls/Toggle';
import { posesPhrase } from '../../words/posesPhrase';
import { clipsOf } from '../clipsOf';
import { Step } from '../Step';

const PLAYS = [
  { value: 'play', text: 'Play', hint: 'It goes on with the time' },
  { value: 'hold', text: 'Hold', hint: 'Each slot holds a pose of its own' },
] as const;
const BEGINS = [
  { value: 'together', text: 'Together', hint: 'All are in step' },
  { value: 'chance', text: 'Chance', hint: 'Each is in step for itself' },
  { value: 'turn', text: 'In turn', hint: 'One after the other, in slot order' },
] as const;

/** How props play the animations that they bring along; it is there where some do. */
export function PosesStep({ arrangement: a }: { arrangement: Arrangement }) {
  const scene = useDocument((s) => s.scene);
  // What a mesh brings is known once it has been worked out.
  useEngine((s) => s.result.arrangements.get(a.id)?.key);
  const clips = clipsOf(a, scene);
  const { poses } = a;
  if (!poses && clips.length === 0) return null;
  return (
    <Step name="poses" title="Poses" color={THREAD_COLORS[a.thread]} phrase={posesPhrase(poses, clips)}>
      <Toggle
        label="Animated"
        hint="Its props play the animations that they bring along"
        value={poses?.on === true}
        onChange={(on) => dispatch(setPoses, { id: a.id, values: { on } })}
      />
      {poses?.on && <Playing id={a.id} poses={poses} clips={clips} />}
    </Step>
  );
}

/** Wheels go by the way that is made. */
const clipText = ({ name, duration }: { name: string; duration: number }) =>
  duration > 0 ? `${name}, ${Number(duration.toFixed(2))} s` : `${name}, by the way`;

function Playing({
  id,
  poses,
  clips,
}: {
  id: string;
  poses: Poses;
  clips: readonly { name: string; duration: number }[];
}) {
  const unit = useDocument((s) => s.scene.units);
  const set = (values: Partial<Poses>, key?: string) => dispatch(setPoses, { id, values }, key);
  const reset = newPoses();
  const plays = poses.plays === 'play';
  const clip = poses.clip ?? clips[0]?.name ?? '';
  const byWay = clips.find((c) => c.name === clip)?.duration === 0;
  return (
    <>
      <Choice
        label="Animation"
        hint="Which one is played; a prop that has none of that name plays its first"
        value={clip}
        none={clip ? `${clip} (missing)` : 'none'}
        options={clips.map((c) => ({ value: c.name, text: clipText(c) }))}
        onChange={(name) => set({ clip: name })}
      />
      <Segmented
        shown
        tight
        label="It is"
        hint="Whether it goes on with the time"
        value={poses.plays}
        options={PLAYS}
        onChange={(to) => set({ plays: to })}
      />
      {plays && (
        <>
          <Segmented
            shown
            tight
            label="Begins"
            hint="Where in the animation each slot begins"
            value={poses.begin}
            options={BEGINS}
            onChange={(begin) => set({ begin })}
          />
          {poses.begin === 'turn' && (
            <NumberField
              label="Every"
              hint="From one to the next"
              suffix="s"
              step={0.05}
              value={poses.every}
              reset={reset.every}
              onChange={(every, key) => set({ every: every ?? reset.every }, key)}
            />
          )}
          {poses.stride === null && !byWay && (
            <RangeField
              label="Pace"
              hint="How fast each plays, of the animation’s own speed; negative runs backwards"
              dimension="percent"
              unit={unit}
              step={0.05}
              rest={1}
              track={[0, 2]}
              value={poses.pace}
              onChange={(pace, key) => set({ pace }, key)}
            />
          )}
          {!byWay && (
            <NumberField
              label="Stride"
              hint="Metres along the path for once through it, so that feet stand where they tread; empty: by time"
              dimension="length"
              unit={unit}
              step={0.05}
              min={0}
              value={poses.stride ?? 1}
              auto={poses.stride === null ? 'by time' : undefined}
              reset={null}
              onChange={(stride, key) => set({ stride }, key)}
            />
          )}
        </>
      )}
      {!plays && (
        <RangeField
          label="From"
          hint="The stretch of the animation that poses are taken from"
          dimension="percent"
          unit={unit}
          step={0.05}
          rest={0}
          min={0}
          max={1}
          track={[0, 1]}
          value={poses.hold}
          onChange={(hold, key) => set({ hold }, key)}
        />
      )}
      <NumberField
        label="Poses"
        hint="So many are made of the whole animation, and shared by all slots: more is smoother, fewer is lighter"
        step={1}
        min={1}
        max={240}
        whole
        value={poses.steps}
        reset={reset.steps}
        onChange={(steps, key) => set({ steps: Math.round(steps ?? reset.steps) }, key)}
      />
    </>
  );
}
