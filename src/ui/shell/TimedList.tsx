'use client';

import { Trash2 } from 'lucide-react';
import { inOrder } from '@/core/evaluate/timed/moments';
import type { Timed } from '@/core/scene/timedSchema';
import { setTime } from '@/store/clock';
import { moveMoment, removeMoment, setMoment, setMomentWay } from '@/store/commands/timed';
import { dispatch, useDocument } from '@/store/document';
import { IconButton } from '../controls/Button';
import { NumberBox } from '../controls/NumberField';
import { timedName } from '../words/timedWords';

const WAYS = [
  { value: 'eased', text: 'eased' },
  { value: 'straight', text: 'evenly' },
  { value: 'held', text: 'held' },
] as const;

/** Every number that changes with time, moment by moment. */
export function TimedList() {
  const scene = useDocument((s) => s.scene);
  if (scene.timed.length === 0) return null;
  return (
    <section aria-label="Numbers in time" className="mt-2 border-t border-edge pt-2">
      {scene.timed.map((timed) => (
        <div key={timed.id} role="group" aria-label={timedName(scene, timed)} className="mb-1.5">
          <p className="truncate text-[12.5px] font-semibold" title={timedName(scene, timed)}>
            {timedName(scene, timed)}
          </p>
          {inOrder(timed.moments).map((m) => (
            <MomentLine key={m.at} timed={timed} {...m} />
          ))}
        </div>
      ))}
    </section>
  );
}

function MomentLine({ timed, at, value, way }: { timed: Timed } & Timed['moments'][number]) {
  const { id, node, field } = timed;
  return (
    <div className="flex items-center gap-1 py-0.5">
      <NumberBox
        label={`Moment ${Number(at.toFixed(2))} s: seconds`}
        suffix="s"
        step={0.1}
        value={at}
        className="w-[64px]"
        onChange={(to) => to !== null && dispatch(moveMoment, { id, from: at, to })}
      />
      <NumberBox
        label={`Moment ${Number(at.toFixed(2))} s: value`}
        step={0.1}
        value={value}
        className="w-[64px]"
        onChange={(v, key) => v !== null && dispatch(setMoment, { node, field, at, value: v }, key)}
      />
      <select
        aria-label={`Moment ${Number(at.toFixed(2))} s: how it goes on`}
        title="How it goes on to the next moment"
        value={way}
        onChange={(e) => dispatch(setMomentWay, { id, at, way: e.target.value as typeof way })}
        className="h-7 min-w-0 flex-1 rounded-md border border-edge bg-card px-1 text-[12.5px]"
      >
        {WAYS.map((w) => (
          <option key={w.value} value={w.value}>
            {w.text}
          </option>
        ))}
      </select>
      <IconButton
        name={`Show the moment ${Number(at.toFixed(2))} s`}
        className="!size-6"
        onClick={() => setTime(at)}
      >
        <span aria-hidden className="size-2 rotate-45 rounded-[1px] bg-current" />
      </IconButton>
      <IconButton
        name={`Take the moment ${Number(at.toFixed(2))} s away`}
        className="!size-6"
        onClick={() => dispatch(removeMoment, { id, at })}
      >
        <Trash2 size={13} />
      </IconButton>
    </div>
  );
}
