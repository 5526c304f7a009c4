'use client';

import type { Run } from '@/core/arrange/run/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, restGesture } from '@/store/document';
import { metres } from '@/words/numbers';
import { arrowMetres, dragSvg } from '../../../flat/dragSvg';
import type { FlatScale } from './scale';

interface InsetsProps {
  run: Run;
  /** Metres of both, as they were worked out. */
  metresIn: [number, number];
  length: number;
  scale: FlatScale;
  y: number;
  color: string;
  unit: 'm' | 'cm';
  disabled: boolean;
}

/** The two insets as marks on the ruler. */
export function Insets({ run, metresIn, length, scale, y, color, unit, disabled }: InsetsProps) {
  const mark = (field: 'insetStart' | 'insetEnd') => {
    const [value, other] = field === 'insetStart' ? metresIn : metresIn.toReversed();
    const x = scale.x(field === 'insetStart' ? value : length - value);
    if (x < -10 || x > scale.width + 10) return null;
    const key = `${field} ${run.id}`;
    const sign = field === 'insetStart' ? 1 : -1;
    const set = (v: number) => {
      const held = Math.min(Math.max(0, length - other), Math.max(0, Number(v.toFixed(3))));
      const lengths = run.spacing[`${field}Lengths`];
      // What is set in lengths of the prop stays so.
      const values =
        lengths > 0 && held > 0 && value > 0
          ? { [`${field}Lengths`]: Number(((held / value) * lengths).toFixed(3)), [field]: 0 }
          : { [`${field}Lengths`]: 0, [field]: held };
      dispatch(setStep, { id: run.id, step: 'spacing', values }, key);
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
