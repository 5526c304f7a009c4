'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { Pause, Play, Rewind } from 'lucide-react';
import type { Run } from '@/core/arrange/run/schema';
import type { Pulley } from '@/core/arrange/steps/schema';
import { play, rewind, useClock } from '@/store/clock';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { IconButton } from '../../../controls/Button';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberField } from '../../../controls/NumberField';
import { Segmented } from '../../../controls/Segmented';
import { pulleyMoves } from '@/core/arrange/run/pulleyWay';
import { metres } from '@/words/numbers';

const ENDS = [
  { value: 'clip', text: 'Clip', hint: 'What leaves at an end is gone' },
  { value: 'wrap', text: 'Wrap', hint: 'What leaves at one end comes in at the other' },
  { value: 'turn', text: 'Turn', hint: 'All go back once any of them has come to an end' },
  { value: 'stay', text: 'Stay', hint: 'All stay once any of them has come to an end' },
] as const;

/** Slides the whole run along its path: by hand, or by a speed while the time runs. */
export function PulleyControls({ run, closed }: { run: Run; closed: boolean }) {
  const unit = useDocument((s) => s.scene.units);
  const { playing, time } = useClock();
  const { pulley } = run;
  const set = (values: Partial<Pulley>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'pulley', values }, key);
  const moves = pulleyMoves(pulley);
  const label =
    pulley.duration !== null
      ? `Pulley ${Number(pulley.duration.toFixed(2))} s`
      : moves
        ? `Pulley ${metres(pulley.speed, unit)}/s`
        : pulley.offset !== 0
          ? `Pulley ${metres(pulley.offset, unit)}`
          : 'Pulley';
  return (
    <span className="flex items-center rounded-md border border-edge bg-card">
      <IconButton
        name={playing ? 'Stop the pulley' : 'Play the pulley'}
        keys="Space"
        onClick={() => {
          // Without a speed there would be nothing to see.
          if (!playing && !moves) set({ speed: 0.2 });
          play(!playing);
        }}
      >
        {playing ? <Pause size={14} /> : <Play size={14} />}
      </IconButton>
      <Popover className="relative">
        <PopoverButton className="whitespace-nowrap px-1.5 text-[12.5px]">{label}</PopoverButton>
        <PopoverPanel className="absolute bottom-full right-0 z-50 mb-1 w-80 rounded-lg border border-edge bg-paper p-2.5 shadow-xl">
          {({ close }) => (
            // A field in hand takes Escape for itself, with nothing typed in it too.
            <div onKeyDownCapture={(e) => e.key === 'Escape' && close()}>
              <LinkScope node={run.id} at="pulley">
                <NumberField
                  label="Offset"
                  field="offset"
                  hint="Moves every slot along the path"
                  dimension="length"
                  unit={unit}
                  step={0.1}
                  value={pulley.offset}
                  reset={0}
                  onChange={(v, key) => set({ offset: v ?? 0 }, key)}
                />
                <NumberField
                  label="Speed a second"
                  field="speed"
                  hint="How far the run slides along its path each second"
                  dimension="length"
                  unit={unit}
                  step={0.05}
                  value={pulley.speed}
                  reset={0}
                  onChange={(v, key) => set({ speed: v ?? 0 }, key)}
                />
                <NumberField
                  label="Duration"
                  hint="Seconds from end to end, or once round, however long the path is; empty: by the speed. A negative speed goes back"
                  suffix="s"
                  step={0.5}
                  min={0.001}
                  value={pulley.duration ?? 10}
                  auto={pulley.duration === null ? 'by speed' : undefined}
                  reset={null}
                  onChange={(duration, key) => set({ duration }, key)}
                />
              </LinkScope>
              {!closed && (
                <Segmented
                  shown
                  tight
                  label="At the ends"
                  hint="What happens with props that come to an end of the path"
                  value={pulley.ends}
                  options={ENDS}
                  onChange={(ends) => set({ ends })}
                />
              )}
            </div>
          )}
        </PopoverPanel>
      </Popover>
      {(time > 0 || playing) && (
        <>
          <span className="num px-1 text-xs text-soft" data-testid="time">
            {time.toFixed(1)} s
          </span>
          <IconButton name="Back to the beginning" onClick={rewind}>
            <Rewind size={13} />
          </IconButton>
        </>
      )}
    </span>
  );
}
