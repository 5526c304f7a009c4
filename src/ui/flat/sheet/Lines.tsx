'use client';

import type { PointerEvent } from 'react';
import type { Sheet, SheetCurve } from '@/core/arrange/sheet/schema';
import type { SheetLayout } from '@/core/evaluate/result';
import { setCurve } from '@/store/commands/sheets';
import { dispatch } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { useSheetDrawing } from './drawing';
import type { Plan } from './plan';

/** More points than this have no handles of their own. */
const MOST_HANDLES = 300;
/** Cells in which repeated lines are drawn. */
const MOST_CELLS = 600;

const pathOf = (points: readonly [number, number][], closed: boolean, plan: Plan): string =>
  points.length === 0
    ? ''
    : `M${points
        .map(([x, y]) =>
          plan
            .at(x, y)
            .map((v) => v.toFixed(1))
            .join(' '),
        )
        .join('L')}${closed ? 'Z' : ''}`;

/** The lines of the layout, their points to be dragged, and the one that is being drawn. */
export function Lines(props: { sheet: Sheet; layout: SheetLayout; plan: Plan; readOnly: boolean }) {
  const { sheet, layout, plan, readOnly } = props;
  const drawing = useSheetDrawing();
  const { curves, repeat } = sheet;
  const count = curves.reduce((n, c) => n + c.points.length, 0);
  const d: string[] = [];
  if (!repeat) for (const c of curves) d.push(pathOf(c.points, c.closed, plan));
  else
    for (let i = 0; i * 2 < layout.at.length && i < MOST_CELLS; i++) {
      const [x, y, w, h] = [
        layout.at[i * 2],
        layout.at[i * 2 + 1],
        layout.cell[i * 2],
        layout.cell[i * 2 + 1],
      ];
      if (!(w > 0)) continue;
      for (const c of curves)
        d.push(
          pathOf(
            c.points.map(([px, py]): [number, number] => [x + (px - 0.5) * w, y + (py - 0.5) * h]),
            c.closed,
            plan,
          ),
        );
    }
  const grab = (curve: SheetCurve, n: number) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || readOnly) return;
    e.preventDefault();
    e.stopPropagation();
    const key = `line ${curve.id} ${n}`;
    const [x, y] = curve.points[n];
    dragGesture(e, key, (m) => {
      const at: [number, number] = [
        Number((x + (m.clientX - e.clientX) / plan.k).toFixed(4)),
        Number((y - (m.clientY - e.clientY) / plan.k).toFixed(4)),
      ];
      const points = curve.points.map((p, i) => (i === n ? at : p));
      dispatch(setCurve, { id: sheet.id, curve: curve.id, values: { points } }, key);
    });
  };
  return (
    <>
      <path d={d.join('')} fill="none" stroke="var(--text)" strokeWidth={1.3} pointerEvents="none" />
      {!repeat &&
        count <= MOST_HANDLES &&
        curves.flatMap((c, k) =>
          c.points.map(([px, py], n) => {
            const [x, y] = plan.at(px, py);
            return (
              <circle
                key={`${c.id} ${n}`}
                role="button"
                aria-label={`Point ${n + 1} of line ${k + 1}`}
                cx={x}
                cy={y}
                r={4}
                fill="var(--paper)"
                stroke="var(--text)"
                strokeWidth={1.4}
                className="cursor-move touch-none"
                onPointerDown={grab(c, n)}
              />
            );
          }),
        )}
      {drawing.sheet === sheet.id && (
        <>
          <path
            d={pathOf(drawing.points, false, plan)}
            fill="none"
            stroke="var(--color-madder)"
            strokeWidth={1.6}
          />
          {drawing.points.map(([px, py], n) => {
            const [x, y] = plan.at(px, py);
            return <circle key={n} cx={x} cy={y} r={3.5} fill="var(--color-madder)" pointerEvents="none" />;
          })}
        </>
      )}
    </>
  );
}
