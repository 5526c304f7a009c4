'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { Pause, Play, Rewind, Settings2 } from 'lucide-react';
import { movesInTime } from '@/core/arrange/registry';
import { surfaceMoves } from '@/core/evaluate/surfaces';
import { play, rewind, setClock, setTime, useClock } from '@/store/clock';
import { useDocument } from '@/store/document';
import { Button, IconButton } from '../controls/Button';
import { NumberField } from '../controls/NumberField';
import { Toggle } from '../controls/Toggle';
import { makeItLoop } from './makeItLoop';
import { TimedList } from './TimedList';
import { TimeMarks } from './TimeMarks';

/** The time, where anything in the scene moves with it: play, pause, a slider, speed and loop. */
export function TimeBar() {
  const moves = useDocument(
    (s) =>
      s.scene.timed.length > 0 ||
      s.scene.surfaces.some(surfaceMoves) ||
      s.scene.arrangements.some(movesInTime),
  );
  const { time, playing, speed, span, loop } = useClock();
  if (!moves && time === 0) return null;
  return (
    <div
      role="group"
      aria-label="Time bar"
      className="flex h-9 items-center gap-0.5 rounded-lg border border-edge bg-paper/95 px-1 shadow-sm"
    >
      <IconButton
        name={playing ? 'Stop the time' : 'Play the time'}
        keys="Space"
        onClick={() => play(!playing)}
      >
        {playing ? <Pause size={15} /> : <Play size={15} />}
      </IconButton>
      <IconButton name="Time to the beginning" disabled={time === 0 && !playing} onClick={rewind}>
        <Rewind size={14} />
      </IconButton>
      <span className="relative flex items-center">
        <TimeMarks span={span} />
        <input
          type="range"
          aria-label="Time in seconds"
          title="The moment that the scene shows"
          min={0}
          max={span}
          step={0.05}
          value={Math.min(span, time)}
          onChange={(e) => {
            play(false);
            setTime(Number(e.target.value));
          }}
          className="h-1 w-28 cursor-pointer accent-madder"
        />
      </span>
      <span className="num w-16 pr-1.5 text-right text-xs text-soft" data-testid="clock">
        {time.toFixed(2)} s
      </span>
      <Popover className="relative">
        <PopoverButton
          aria-label="Speed and loop"
          title="Speed and loop"
          className="flex size-7 items-center justify-center rounded-md text-soft hover:bg-groove/70 hover:text-text"
        >
          <Settings2 size={14} />
        </PopoverButton>
        <PopoverPanel className="absolute bottom-full right-0 z-50 mb-2 thin-scroll max-h-96 w-80 overflow-y-auto rounded-lg border border-edge bg-paper p-2.5 shadow-xl">
          {({ close }) => (
            // A field in hand takes Escape for itself, with nothing typed in it too.
            <div onKeyDownCapture={(e) => e.key === 'Escape' && close()}>
              <NumberField
                label="Time"
                hint="Seconds from the beginning"
                step={0.1}
                value={time}
                reset={0}
                onChange={(v) => {
                  play(false);
                  setTime(v ?? 0);
                }}
              />
              <NumberField
                label="Speed"
                hint="How fast time runs while it plays"
                dimension="percent"
                step={0.1}
                value={speed}
                reset={1}
                onChange={(v) => setClock({ speed: v ?? 1 })}
              />
              <NumberField
                label="Seconds shown"
                hint="Seconds that the time bar is long"
                step={1}
                min={0.1}
                value={span}
                reset={8}
                onChange={(v) => setClock({ span: Math.max(0.1, v ?? 8) })}
              />
              <Toggle
                label="Loop"
                hint="At the end of the time bar it begins again"
                value={loop}
                onChange={(on) => setClock({ loop: on })}
              />
              <Button
                look="bordered"
                title="Speeds and waves become whole ones over the seconds shown, so that the last frame meets the first"
                onClick={makeItLoop}
              >
                Make it loop
              </Button>
              <TimedList />
            </div>
          )}
        </PopoverPanel>
      </Popover>
    </div>
  );
}
