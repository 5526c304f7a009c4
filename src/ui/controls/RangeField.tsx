'use client';

import clsx from 'clsx';
import { useId, useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import type { Spread } from '@/core/arrange/steps/schema';
import { restGesture } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { parseMeasure } from '@/words/measure';
import { NumberBox, type NumberSettings } from './NumberField';
import { SPREADS } from './spreads';
import { useScrub } from './useScrub';

type Range = [number, number];

export interface RangeFieldProps extends NumberSettings {
  label: string;
  /** What it does, in plain words: the line on hover. */
  hint: string;
  value: readonly [number, number];
  /** What "no variation" is; a double click on the label puts it back. */
  rest: number;
  /** The ends of the track; typed values may lie beyond. */
  track: Range;
  onChange: (value: Range, key?: string) => void;
  /** How values lie in the range: drawn over it. */
  spread?: Spread;
  /** Stands behind both boxes. */
  after?: ReactNode;
}

const BY_KEY: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 };

/**
 * A range as one control with two ends. Dragging the label widens or narrows it about its middle; dragging what lies
 * between the ends moves it as it is.
 */
export function RangeField(props: RangeFieldProps) {
  const { label, value, rest, track, onChange, step = 1 } = props;
  const [low, high] = [Math.min(...value), Math.max(...value)];
  const start = useRef<Range>([low, high]);
  const bar = useRef<HTMLDivElement>(null);
  const key = useId();
  const clean = (v: number) => Number(v.toPrecision(10));
  const hold = (v: number) => Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, clean(v)));
  const scrub = useScrub(
    () => (start.current = [low, high]),
    (pixels, k) => {
      const middle = (start.current[0] + start.current[1]) / 2;
      const half = Math.max(
        0,
        (start.current[1] - start.current[0]) / 2 + Math.round(pixels / 4) * step * 0.5,
      );
      onChange([hold(middle - half), hold(middle + half)], k);
    },
  );
  const share = (v: number) => Math.min(1, Math.max(0, (v - track[0]) / (track[1] - track[0])));
  const set = (end: 0 | 1, v: number, k?: string) => {
    const next = hold(v);
    // One end set beyond the other takes it along.
    onChange(end === 0 ? [next, Math.max(next, high)] : [Math.min(low, next), next], k);
  };
  /** "±5": so much to either side of what no variation is. */
  const onText = (text: string): boolean => {
    const half = /^(?:±|\+-|\+\/-)(.*)$/.exec(text.trim());
    const by = half && parseMeasure(half[1], props.dimension, props.unit);
    if (by === null) return false;
    onChange([hold(rest - Math.abs(by)), hold(rest + Math.abs(by))]);
    return true;
  };
  const drag = (end: 0 | 1) => (e: PointerEvent<HTMLElement>) => {
    e.preventDefault();
    e.currentTarget.focus();
    dragGesture(e, key, (m) => {
      const box = bar.current!.getBoundingClientRect();
      const u = Math.min(1, Math.max(0, (m.clientX - box.left) / box.width));
      set(end, Math.round((track[0] + u * (track[1] - track[0])) / step) * step, key);
    });
  };
  /** Both ends at once, as far as neither of them goes beyond what is allowed. */
  const shift = (from: Range, by: number, k?: string) => {
    const most = (props.max ?? Infinity) - from[1];
    const least = (props.min ?? -Infinity) - from[0];
    const held = Math.min(most, Math.max(least, by));
    onChange([clean(from[0] + held), clean(from[1] + held)], k);
  };
  const dragBoth = (e: PointerEvent<HTMLElement>) => {
    e.preventDefault();
    e.currentTarget.focus();
    const from: Range = [low, high];
    dragGesture(e, key, (m) => {
      const u = (m.clientX - e.clientX) / bar.current!.getBoundingClientRect().width;
      shift(from, Math.round((u * (track[1] - track[0])) / step) * step, key);
    });
  };
  const keysOfBoth = (e: KeyboardEvent) => {
    const by = BY_KEY[e.key];
    if (!by) return;
    e.preventDefault();
    shift([low, high], by * step * (e.shiftKey ? 10 : 1), key);
  };
  const keys = (end: 0 | 1) => (e: KeyboardEvent) => {
    const by = BY_KEY[e.key];
    if (!by) return;
    e.preventDefault();
    set(end, (end === 0 ? low : high) + by * step * (e.shiftKey ? 10 : 1), key);
  };
  const boxes = { ...props, auto: undefined, reset: rest, onText };
  return (
    <div className="py-1" title={props.hint}>
      <div className="flex min-h-8 items-center gap-2">
        <span
          className="w-[56px] shrink-0 cursor-ew-resize touch-none select-none text-sm"
          onPointerDown={scrub.onPointerDown}
          onDoubleClick={() => onChange([rest, rest])}
        >
          {label}
        </span>
        <NumberBox
          {...boxes}
          label={`${label}, least`}
          value={low}
          onChange={(v, k) => set(0, v ?? rest, k)}
          className="min-w-0 flex-1"
        />
        <NumberBox
          {...boxes}
          label={`${label}, most`}
          value={high}
          onChange={(v, k) => set(1, v ?? rest, k)}
          className="min-w-0 flex-1"
        />
        {props.after}
      </div>
      <div className={clsx('ml-[64px] py-1', props.after && 'mr-9')}>
        <div ref={bar} className={clsx('relative rounded bg-edge', props.spread ? 'mt-2.5 h-1' : 'h-1')}>
          <div
            className="absolute h-1 rounded bg-soft"
            style={{ left: `${share(low) * 100}%`, right: `${(1 - share(high)) * 100}%` }}
          />
          {props.spread && high > low && (
            <svg
              aria-hidden
              className="absolute bottom-1 h-2.5"
              preserveAspectRatio="none"
              viewBox="0 0 16 10"
              style={{ left: `${share(low) * 100}%`, width: `${(share(high) - share(low)) * 100}%` }}
            >
              <path d={SPREADS[props.spread]} className="fill-soft/45" />
            </svg>
          )}
          {high > low && (
            <span
              role="slider"
              tabIndex={0}
              aria-label={`${label}, both ends, slider`}
              aria-valuemin={track[0]}
              aria-valuemax={track[1]}
              aria-valuenow={(low + high) / 2}
              title="Drag, or arrow keys: both ends together"
              onPointerDown={dragBoth}
              onKeyDown={keysOfBoth}
              onKeyUp={restGesture}
              className={clsx(
                'absolute cursor-grab touch-none rounded active:cursor-grabbing',
                props.spread ? '-bottom-1 -top-2.5' : '-inset-y-1.5',
              )}
              style={{ left: `${share(low) * 100}%`, right: `${(1 - share(high)) * 100}%` }}
            />
          )}
          {([0, 1] as const).map((end) => (
            <span
              key={end}
              role="slider"
              tabIndex={0}
              aria-label={`${label}, ${end === 0 ? 'least' : 'most'}, slider`}
              aria-valuemin={track[0]}
              aria-valuemax={track[1]}
              aria-valuenow={end === 0 ? low : high}
              onPointerDown={drag(end)}
              onKeyDown={keys(end)}
              onKeyUp={restGesture}
              className={clsx(
                'absolute top-1/2 h-3.5 w-2 -translate-y-1/2 cursor-ew-resize touch-none border border-soft bg-card',
                end === 0 ? '-translate-x-full rounded-l-full' : 'rounded-r-full',
              )}
              style={{ left: `${share(end === 0 ? low : high) * 100}%` }}
            />
          ))}
        </div>
      </div>
    </div>
  );
}
