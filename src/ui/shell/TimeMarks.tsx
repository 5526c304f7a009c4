'use client';

import { useRef, useState } from 'react';
import { play, setTime } from '@/store/clock';
import { moveMoment, removeMoment } from '@/store/commands/timed';
import { dispatch, restGesture, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { timedName } from '../words/timedWords';

const STEP = 0.05;
const onGrid = (t: number) => Number((Math.round(t / STEP) * STEP).toFixed(2));

/** The moments of numbers in time on the time bar: those of what is in hand, or all where that has none. */
export function TimeMarks({ span }: { span: number }) {
  const scene = useDocument((s) => s.scene);
  const selected = useSelection((s) => s.node?.id);
  const own = scene.timed.filter((t) => t.node === selected);
  const shown = own.length > 0 ? own : scene.timed;
  return (
    <span className="pointer-events-none absolute inset-x-2 -top-3.5 h-0">
      {shown.flatMap((timed) => {
        const a = scene.arrangements.find((x) => x.id === timed.node);
        return timed.moments
          .filter(({ at }) => at >= 0 && at <= span)
          .map(({ at }) => (
            <Mark
              key={`${timed.id} ${at}`}
              id={timed.id}
              at={at}
              span={span}
              name={`Moment of ${timedName(scene, timed)} at ${Number(at.toFixed(2))} s`}
              color={a ? THREAD_COLORS[a.thread] : 'var(--color-ink-500)'}
            />
          ));
      })}
    </span>
  );
}

interface MarkProps {
  id: string;
  at: number;
  span: number;
  name: string;
  color: string;
}

/** One moment: a click shows it, a drag or the arrow keys move it, Delete takes it away. */
function Mark({ id, at, span, name, color }: MarkProps) {
  const began = useRef<{ x: number; wide: number; key: string } | null>(null);
  /** Where it is dragged to; the document follows when it is let go. */
  const [to, setTo] = useState<number | null>(null);
  const held = (t: number) => Math.min(span, Math.max(0, onGrid(t)));
  const shown = to ?? at;
  const move = (next: number) => {
    if (next !== at) dispatch(moveMoment, { id, from: at, to: next });
  };
  return (
    <button
      type="button"
      aria-label={name}
      title={`${name}. Drag it, or arrow keys; Delete takes it away`}
      className="pointer-events-auto absolute size-2 -translate-x-1/2 rotate-45 cursor-ew-resize touch-none rounded-[2px] border border-paper focus-visible:outline-2 focus-visible:outline-woad"
      style={{ left: `${(shown / span) * 100}%`, background: color }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        const wide = e.currentTarget.parentElement!.clientWidth || 1;
        began.current = { x: e.clientX, wide, key: `moment ${id} ${at}` };
      }}
      onPointerMove={(e) => {
        const from = began.current;
        if (!from || Math.abs(e.clientX - from.x) < 3) return;
        setTo(held(at + ((e.clientX - from.x) / from.wide) * span));
      }}
      onPointerUp={() => {
        began.current = null;
        play(false);
        if (to === null) setTime(at);
        else move(to);
        setTo(null);
      }}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
        if (by !== 0) move(held(at + by * STEP * (e.shiftKey ? 10 : 1)));
        else if (e.key === 'Delete' || e.key === 'Backspace') dispatch(removeMoment, { id, at });
        else if (e.key === 'Escape' && to !== null) {
          began.current = null;
          setTo(null);
        } else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onKeyUp={() => restGesture()}
    />
  );
}
