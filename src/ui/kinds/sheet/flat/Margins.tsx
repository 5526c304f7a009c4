'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import type { SheetLayout } from '@/core/arrange/result';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, restGesture } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { arrowMetres } from '../../../flat/dragSvg';
import type { Plan } from './plan';

const SIDES = [
  { field: 'left', label: 'Margin left', axis: 0, way: 1 },
  { field: 'right', label: 'Margin right', axis: 0, way: -1 },
  { field: 'bottom', label: 'Margin below', axis: 1, way: 1 },
  { field: 'top', label: 'Margin above', axis: 1, way: -1 },
] as const;

/** The margins of the grid: four lines that are dragged. */
export function Margins(props: { sheet: Sheet; layout: SheetLayout; plan: Plan; readOnly: boolean }) {
  const { sheet, layout, plan, readOnly } = props;
  const { grid, id } = sheet;
  const color = THREAD_COLORS[sheet.thread];
  return SIDES.map(({ field, label, axis, way }) => {
    const value = grid[field];
    const whole = axis === 0 ? layout.width : layout.height;
    const to = way > 0 ? value : whole - value;
    const a = axis === 0 ? plan.at(to, 0) : plan.at(0, to);
    const b = axis === 0 ? plan.at(to, layout.height) : plan.at(layout.width, to);
    const set = (v: number, key: string) =>
      dispatch(
        setStep,
        { id, step: 'grid', values: { [field]: Number(Math.min(whole, Math.max(0, v)).toFixed(3)) } },
        key,
      );
    const press = (e: PointerEvent<SVGElement>) => {
      if (e.button !== 0 || readOnly) return;
      e.preventDefault();
      e.stopPropagation();
      (e.currentTarget as SVGElement).focus();
      const key = `${label} ${id}`;
      dragGesture(e, key, (m) => {
        const pixels = axis === 0 ? m.clientX - e.clientX : e.clientY - m.clientY;
        set(value + (way * pixels) / plan.k, key);
      });
    };
    const keys = (e: KeyboardEvent) => {
      const by = arrowMetres(e);
      if (by === 0 || readOnly) return;
      e.preventDefault();
      e.stopPropagation();
      set(value + by, `${label} keys ${id}`);
    };
    return (
      <g
        key={field}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={value}
        aria-valuetext={`${value} m`}
        className={`touch-none outline-none focus-visible:[&>line:last-child]:stroke-2 ${axis === 0 ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
        onPointerDown={press}
        onKeyDown={keys}
        onKeyUp={restGesture}
      >
        <title>{`${label}: drag`}</title>
        <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke="transparent" strokeWidth={9} />
        <line
          x1={a[0]}
          y1={a[1]}
          x2={b[0]}
          y2={b[1]}
          stroke={color}
          strokeOpacity={value > 0 ? 0.9 : 0.35}
          strokeDasharray="5 4"
        />
      </g>
    );
  });
}
