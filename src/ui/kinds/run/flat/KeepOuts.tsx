'use client';

import type { Run } from '@/core/arrange/run/schema';
import { rangesOn } from '@/core/arrange/steps/gaps';
import type { RangeKeepOut } from '@/core/arrange/steps/schema';
import { removeKeepOut, setKeepOut } from '@/store/commands/gaps';
import { dispatch, restGesture } from '@/store/document';
import { arrowMetres, dragSvg } from '../../../flat/dragSvg';
import type { FlatScale } from './scale';

interface KeepOutsProps {
  run: Run;
  part: number;
  stroke: number;
  length: number;
  closed: boolean;
  scale: FlatScale;
  height: number;
  /** A stretch that is being dragged out on the ruler. */
  fresh: { from: number; to: number } | null;
  disabled: boolean;
}

/** Stretches where nothing goes: drag them, or either end. */
export function KeepOuts({ run, part, stroke, length, scale, height, fresh, disabled }: KeepOutsProps) {
  return (
    <g>
      <defs>
        <pattern
          id="keep-out"
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line
            x1={0}
            x2={0}
            y1={0}
            y2={7}
            stroke="var(--color-madder)"
            strokeOpacity={0.28}
            strokeWidth={3.4}
          />
        </pattern>
      </defs>
      {rangesOn(run.gaps.keepOuts, part, stroke).map((k) => (
        <Stretch
          key={k.id}
          run={run.id}
          keepOut={k}
          length={length}
          scale={scale}
          height={height}
          disabled={disabled}
        />
      ))}
      {fresh && (
        <rect
          x={scale.x(fresh.from)}
          y={8}
          width={Math.max(0, scale.x(fresh.to) - scale.x(fresh.from))}
          height={height - 10}
          fill="url(#keep-out)"
          stroke="var(--color-madder)"
          strokeDasharray="4 3"
          rx={5}
        />
      )}
    </g>
  );
}

function Stretch({
  run,
  keepOut: k,
  length,
  scale,
  height,
  disabled,
}: {
  run: string;
  keepOut: RangeKeepOut;
  length: number;
  scale: FlatScale;
  height: number;
  disabled: boolean;
}) {
  const key = `keep ${k.id}`;
  const round = (v: number) => Number(v.toFixed(3));
  const hold = (v: number) => Math.min(length, Math.max(0, v));
  const set = (from: number, to: number) =>
    dispatch(setKeepOut, { id: run, keepOut: k.id, values: { from: round(from), to: round(to) } }, key);
  const shift = (by: number) => {
    const held = Math.min(length - Math.max(k.from, k.to), Math.max(-Math.min(k.from, k.to), by));
    set(k.from + held, k.to + held);
  };
  const perPixel = (scale.to - scale.from) / Math.max(1, scale.x(scale.to) - scale.x(scale.from));
  // Over the seam of a loop the stretch shows at both ends.
  const pieces =
    k.from <= k.to
      ? [[k.from, k.to]]
      : [
          [k.from, length],
          [0, k.to],
        ];
  const edge = (which: 'from' | 'to') => {
    const x = scale.x(k[which]);
    const put = (v: number) => set(which === 'from' ? hold(v) : k.from, which === 'to' ? hold(v) : k.to);
    return (
      <g
        role="slider"
        tabIndex={disabled ? -1 : 0}
        aria-label={`${k.name}, ${which === 'from' ? 'start' : 'end'}`}
        aria-valuenow={k[which]}
        aria-valuemin={0}
        aria-valuemax={round(length)}
        className="cursor-ew-resize touch-none outline-none [&:focus-visible>line]:stroke-[3]"
        onPointerDown={(e) => !disabled && dragSvg(e, key, (pixels) => put(k[which] + pixels * perPixel))}
        onKeyDown={(e) => {
          const by = arrowMetres(e);
          if (!by || disabled) return;
          e.preventDefault();
          put(k[which] + by);
        }}
        onKeyUp={restGesture}
      >
        <rect x={x - 5} y={8} width={10} height={height - 10} fill="transparent" />
        <line x1={x} x2={x} y1={10} y2={height - 4} stroke="var(--color-madder)" strokeOpacity={0.7} />
      </g>
    );
  };
  return (
    <g>
      {pieces.map(([a, b], i) => (
        <rect
          key={i}
          role="button"
          tabIndex={disabled ? -1 : 0}
          aria-label={`Keep-out ${k.name}, ${round(a)} to ${round(b)} m`}
          x={scale.x(a)}
          y={8}
          width={Math.max(1, scale.x(b) - scale.x(a))}
          height={height - 10}
          rx={5}
          fill="url(#keep-out)"
          stroke="var(--color-madder)"
          strokeOpacity={0.55}
          strokeDasharray="4 3"
          className="cursor-grab touch-none"
          onPointerDown={(e) => !disabled && dragSvg(e, key, (pixels) => shift(pixels * perPixel))}
          onKeyDown={(e) => {
            if (disabled) return;
            const by = arrowMetres(e);
            if (by) {
              e.preventDefault();
              shift(by);
            }
            if (e.key === 'Delete' || e.key === 'Backspace') {
              e.preventDefault();
              e.stopPropagation();
              dispatch(removeKeepOut, { id: run, keepOut: k.id });
            }
          }}
          onKeyUp={restGesture}
        />
      ))}
      {edge('from')}
      {edge('to')}
      <text
        x={(scale.x(k.from) + scale.x(k.to)) / 2}
        y={height - 8}
        textAnchor="middle"
        fontSize={11}
        fill="var(--danger)"
        className="pointer-events-none select-none"
      >
        {k.name}
      </text>
    </g>
  );
}
