'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import type { Sheet, SheetCurve } from '@/core/arrange/sheet/schema';
import type { SheetLayout } from '@/core/arrange/result';
import { setCurve } from '@/store/commands/sheets';
import { dispatch, restGesture } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { useSheetDrawing } from './drawing';
import type { Plan } from './plan';

/** More points than this have no handles of their own. */
const MOST_HANDLES = 300;
/** Cells in which repeated lines are drawn. */
const MOST_CELLS = 600;

/** SVG path data through places, x and y one after the other. */
function pathOf(places: ArrayLike<number>, closed: boolean, plan: Plan): string {
  const out: string[] = [];
  for (let i = 0; i + 1 < places.length; i += 2) {
    const [x, y] = plan.at(places[i], places[i + 1]);
    out.push(`${x.toFixed(1)} ${y.toFixed(1)}`);
  }
  return out.length === 0 ? '' : `M${out.join('L')}${closed ? 'Z' : ''}`;
}

/** The lines of the layout, their points to be dragged, and the one that is being drawn. */
export function Lines(props: { sheet: Sheet; layout: SheetLayout; plan: Plan; readOnly: boolean }) {
  const { sheet, layout, plan, readOnly } = props;
  const drawing = useSheetDrawing();
  const { curves, repeat } = sheet;
  const count = curves.reduce((n, c) => n + c.points.length, 0);
  const d: string[] = [];
  const closed = (i: number) => curves[i]?.closed ?? false;
  if (!repeat) layout.lines.forEach((line, i) => d.push(pathOf(line, closed(i), plan)));
  else
    for (let i = 0; i * 2 < layout.at.length && i < MOST_CELLS; i++) {
      const [x, y, w, h] = [
        layout.at[i * 2],
        layout.at[i * 2 + 1],
        layout.cell[i * 2],
        layout.cell[i * 2 + 1],
      ];
      if (!(w > 0)) continue;
      layout.lines.forEach((line, k) =>
        d.push(
          pathOf(
            line.map((v, n) => (n % 2 === 0 ? x + (v - 0.5) * w : y + (v - 0.5) * h)),
            closed(k),
            plan,
          ),
        ),
      );
    }
  const put = (curve: SheetCurve, n: number, at: [number, number], key: string) =>
    dispatch(
      setCurve,
      { id: sheet.id, curve: curve.id, values: { points: curve.points.map((p, i) => (i === n ? at : p)) } },
      key,
    );
  const keys = (curve: SheetCurve, n: number) => (e: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowDown: [0, -1], ArrowUp: [0, 1] }[e.key];
    const gone = e.key === 'Delete' || e.key === 'Backspace';
    if ((!way && !gone) || readOnly) return;
    e.preventDefault();
    e.stopPropagation();
    if (!way) {
      // A line of one point is none.
      const points = curve.points.filter((_, i) => i !== n);
      if (points.length > 1) dispatch(setCurve, { id: sheet.id, curve: curve.id, values: { points } });
      return;
    }
    const step = e.shiftKey ? 0.1 : 0.01;
    const [x, y] = curve.points[n].map((v, a) => Number((v + way[a] * step).toFixed(4)));
    put(curve, n, [x, y], `line keys ${curve.id} ${n}`);
  };
  const grab = (curve: SheetCurve, n: number) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || readOnly) return;
    e.preventDefault();
    e.stopPropagation();
    (e.currentTarget as SVGElement).focus();
    const key = `line ${curve.id} ${n}`;
    const [x, y] = curve.points[n];
    dragGesture(e, key, (m) => {
      const at: [number, number] = [
        Number((x + (m.clientX - e.clientX) / plan.k).toFixed(4)),
        Number((y - (m.clientY - e.clientY) / plan.k).toFixed(4)),
      ];
      put(curve, n, at, key);
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
                tabIndex={0}
                className="cursor-move touch-none outline-none focus-visible:stroke-[3px]"
                onPointerDown={grab(c, n)}
                onKeyDown={keys(c, n)}
                onKeyUp={restGesture}
              />
            );
          }),
        )}
      {drawing.sheet === sheet.id && (
        <>
          <path
            d={pathOf(drawing.points.flat(), false, plan)}
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
