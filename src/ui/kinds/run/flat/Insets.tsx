'use client';

import type { Run } from '@/core/arrange/run/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, restGesture } from '@/store/document';
import { metres } from '@/words/numbers';
import { arrowMetres, dragSvg } from '../../../flat/dragSvg';
import type { FlatScale } from './scale';

interface InsetsProps {
  run: Run;
  length: number;
  scale: FlatScale;
  y: number;
  color: string;
  unit: 'm' | 'cm';
  disabled: boolean;
}

/** The two insets as marks on the ruler. */
export function Insets({ run, length, scale, y, color, unit, disabled }: InsetsProps) {
  const { insetStart, insetEnd } = run.spacing;
  const mark = (field: 'insetStart' | 'insetEnd') => {
    const value = run.spacing[field];
    const other = field === 'insetStart' ? insetEnd : insetStart;
    const x = scale.x(field === 'insetStart' ? value : length - value);
    if (x < -10 || x > scale.width + 10) return null;
    const key = `${field} ${run.id}`;
    const sign = field === 'insetStart' ? 1 : -1;
    const set = (v: number) => {
      const held = Math.min(Math.max(0, length - other), Math.max(0, Number(v.toFixed(3))));
      dispatch(setStep, { id: run.id, step: 'spacing', values: { [field]: held } }, key);
    };
    const perPixel = (scale.to - scale.from) / Math.max(1, scale.x(scale.to) - scale.x(scale.from));
    return (
      <g
        key={field}
        role="slider"
        tabIndex={disabled ? -1 : 0}
        aria-label={field === 'insetStart' ? 'Inset at start' : 'Inset at end'}
        aria-valuemin={0}
        aria-valuemax={Math.round(length * 1000) / 1000}
        aria-valuenow={value}
        className="cursor-ew-resize touch-none outline-none focus-visible:[&>path]:stroke-2"
        onPointerDown={(e) => !disabled && dragSvg(e, key, (pixels) => set(value + sign * pixels * perPixel))}
        onKeyDown={(e) => {
          const by = arrowMetres(e);
          if (!by || disabled) return;
          e.preventDefault();
          set(value + sign * by);
        }}
        onKeyUp={restGesture}
      >
        <title>{`${field === 'insetStart' ? 'Inset at start' : 'Inset at end'}: ${metres(value, unit, 3)}`}</title>
        {value > 0 && (
          <line x1={x} x2={x} y1={18} y2={y - 8} stroke={color} strokeOpacity={0.5} strokeDasharray="2 4" />
        )}
        <rect x={x - 9} y={y - 14} width={18} height={18} fill="transparent" />
        <path d={`M${x - 5.5} ${y - 9}h11l-5.5 8z`} fill={color} stroke="var(--text)" strokeWidth={0} />
      </g>
    );
  };
  return (
    <g>
      {mark('insetStart')}
      {mark('insetEnd')}
    </g>
  );
}
