'use client';

import { useEffect, useMemo, useState, type PointerEvent } from 'react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { slotName } from '@/core/arrange/slotId';
import { STATE, type SheetLayout } from '@/core/arrange/result';
import type { ServedArrangement } from '@/engine/served';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { setHover, useSelection } from '@/store/selection';
import { LINEN, THREAD_COLORS } from '@/view/colors';
import { useView } from '@/view/viewState';
import { DistortionLegend } from '../recipe/DistortionLegend';
import { metres } from '@/words/numbers';
import { useSize } from '../../../flat/useSize';
import { WHOLE, type Look } from '../../../flat/look';
import { ZoomButtons } from '../../../flat/ZoomButtons';
import { Cells, MOST_CELLS } from './Cells';
import { addDrawn, drawOnSheet, finishDrawn, useSheetDrawing } from './drawing';
import { Lines } from './Lines';
import { Margins } from './Margins';
import { outlinePath, planOf, type Plan } from './plan';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

/** The layout of a sheet, flat, and edited in place. Rows are as long as they are on the surface. */
export function SheetFlat({ arrangement: sheet }: { arrangement: Sheet }) {
  const [frame, size] = useSize();
  const [look, setLook] = useState<Look>(WHOLE);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const units = useDocument((s) => s.scene.units);
  const result = useEngine((s) => s.result.arrangements.get(sheet.id));
  const drawing = useSheetDrawing((s) => s.sheet === sheet.id);
  const distortion = useView((s) => s.distortion);
  const layout = result?.sheet;
  const { repeat } = sheet;
  useEffect(() => {
    if (!drawing) return undefined;
    const keys = (e: KeyboardEvent) => {
      if (e.key !== 'Enter' && e.key !== 'Escape') return;
      e.preventDefault();
      e.stopPropagation();
      if (e.key === 'Enter') finishDrawn((points) => (repeat && layout ? inCell(layout, points) : points));
      else drawOnSheet(null);
    };
    addEventListener('keydown', keys, true);
    return () => removeEventListener('keydown', keys, true);
  }, [drawing, repeat, layout]);
  // A wheel listener of React's is passive and could not keep the page from scrolling.
  useEffect(() => {
    const element = frame.current;
    if (!element || !layout) return undefined;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const box = element.getBoundingClientRect();
      setLook((was) => {
        const by = { width: element.clientWidth, height: element.clientHeight };
        const [x, y] = planOf(layout, by, was).back(e.clientX - box.left, e.clientY - box.top);
        const zoom = Math.min(60, Math.max(1, was.zoom * (e.deltaY < 0 ? 1.15 : 1 / 1.15)));
        if (zoom === 1) return WHOLE;
        const k = was.zoom / zoom;
        // What is under the pointer stays there.
        return {
          zoom,
          x: x - layout.width / 2 + (was.x + layout.width / 2 - x) * k,
          y: y - layout.height / 2 + (was.y + layout.height / 2 - y) * k,
        };
      });
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [frame, layout]);
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Sheet">
        {layout && (
          <HeadWords
            className="num"
            words={`${metres(layout.width, units, 2)} × ${metres(layout.height, units, 2)}${layout.closedAcross ? ', goes round' : ''}`}
          />
        )}
        <HeadWords
          fills
          words={
            drawing
              ? 'Click points; Enter ends the line, Escape lets it go.'
              : 'Click a place to empty or fill it; drag it to nudge.'
          }
        />
        {distortion && (
          <span className="w-72 shrink-0">
            <DistortionLegend bare />
          </span>
        )}
        <ZoomButtons what="the sheet" look={look} onWhole={() => setLook(WHOLE)} />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="sheet">
        {layout && result && size.width > 0 && (
          <Layout
            sheet={sheet}
            layout={layout}
            result={result}
            size={size}
            look={look}
            setLook={setLook}
            drawing={drawing}
            readOnly={readOnly}
          />
        )}
        {!layout && (
          <p className="px-4 text-sm text-soft">
            The sheet lies on nothing yet. Choose a surface with uv under Surface, or lay it from a flat
            frame.
          </p>
        )}
      </div>
    </div>
  );
}

interface LayoutProps {
  sheet: Sheet;
  layout: SheetLayout;
  result: ServedArrangement;
  size: { width: number; height: number };
  look: Look;
  setLook: (look: Look) => void;
  drawing: boolean;
  readOnly: boolean;
}

function Layout({ sheet, layout, result, size, look, setLook, drawing, readOnly }: LayoutProps) {
  const bounds = useEngine((s) => s.result.propBounds);
  const props = useDocument((s) => s.scene.props);
  const names = useMemo(() => new Map(props.map((p) => [p.id, p.name])), [props]);
  const plan = useMemo(() => planOf(layout, size, look), [layout, size, look]);
  const many = result.placements.count > MOST_CELLS;
  const color = THREAD_COLORS[sheet.thread];
  const at = (e: PointerEvent<SVGSVGElement>): [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    return plan.back(e.clientX - box.left, e.clientY - box.top);
  };
  const press = (e: PointerEvent<SVGSVGElement>) => {
    if (e.button !== 0) return;
    if (drawing) {
      const [x, y] = at(e);
      addDrawn([Number(x.toFixed(4)), Number(y.toFixed(4))]);
      return;
    }
    if (many && !readOnly) {
      const i = nearestOf(layout, result.placements.count, at(e));
      if (i >= 0) {
        const { slot, state } = result.placements;
        const removed = state[i] === STATE.placed;
        dispatch(setSlotsRemoved, { id: sheet.id, slots: [slot[i]], removed });
        return;
      }
    }
    if (look.zoom > 1) pan(e, look, plan, setLook);
  };
  return (
    <svg
      width={size.width}
      height={size.height}
      className={`absolute inset-0 block ${drawing ? 'cursor-crosshair' : ''}`}
      onPointerDown={press}
      onPointerMove={(e) => {
        if (!many || e.buttons !== 0) return;
        const i = nearestOf(layout, result.placements.count, at(e));
        setHover(i < 0 ? null : { arrangement: sheet.id, slot: result.placements.slot[i] });
      }}
    >
      <path d={outlinePath(layout, plan)} fill="var(--well)" stroke="var(--edge)" />
      <g pointerEvents={drawing ? 'none' : undefined}>
        <Cells {...{ sheet, layout, result, bounds, plan, readOnly, names }} />
        {many && <Hovered sheet={sheet.id} layout={layout} result={result} plan={plan} />}
        {sheet.grid.on && <Margins {...{ sheet, layout, plan, readOnly }} />}
      </g>
      <Lines {...{ sheet, layout, plan, readOnly }} />
      <Corner at={plan.at(0, 0)} color={color} swap={layout.match.swap} lettered={sheet.over.kind === 'uv'} />
    </svg>
  );
}

/** The marked corner of the layout and the ways that meet the surface's u and v, as the scene has them. */
function Corner(props: { at: [number, number]; color: string; swap: boolean; lettered: boolean }) {
  const { at, color, swap, lettered } = props;
  const [x, y] = at;
  const ways = [
    [x + 28, y, swap ? 'v' : 'u'],
    [x, y - 28, swap ? 'u' : 'v'],
  ] as const;
  return (
    <g aria-hidden pointerEvents="none">
      <path d={`M${x} ${y - 26}V${y}H${x + 26}`} fill="none" stroke={color} strokeWidth={2.5} />
      <circle cx={x} cy={y} r={4.5} fill={color} stroke={LINEN} strokeWidth={1.2} />
      {lettered &&
        ways.map(([cx, cy, letter]) => (
          <g key={letter}>
            <circle cx={cx} cy={cy} r={7} fill={color} />
            <text x={cx} y={cy + 3.3} textAnchor="middle" fontSize={10} fontWeight={700} fill={LINEN}>
              {letter}
            </text>
          </g>
        ))}
    </g>
  );
}

/** A line that is repeated in every cell, drawn over one of them: shares of the cell that it begins in. */
function inCell(layout: SheetLayout, points: [number, number][]): [number, number][] {
  const [x, y] = points[0];
  const i = nearestOf(layout, layout.at.length / 2, [x, y]);
  if (i < 0) return points;
  const [cx, cy, w, h] = [layout.at[i * 2], layout.at[i * 2 + 1], layout.cell[i * 2], layout.cell[i * 2 + 1]];
  const round = (v: number) => Number(v.toFixed(5));
  return points.map(([px, py]) => [round((px - cx) / w + 0.5), round((py - cy) / h + 0.5)]);
}

/** The row of the placement whose place is nearest, within half a cell; −1 for none. */
function nearestOf(layout: SheetLayout, count: number, [x, y]: [number, number]): number {
  let best = -1;
  let least = Infinity;
  for (let i = 0; i < count; i++) {
    const [dx, dy] = [x - layout.at[i * 2], y - layout.at[i * 2 + 1]];
    const d = dx * dx + dy * dy;
    const [w, h] = [layout.cell[i * 2] || 0.3, layout.cell[i * 2 + 1] || 0.3];
    if (d < least && Math.abs(dx) <= w / 2 && Math.abs(dy) <= h / 2) [best, least] = [i, d];
  }
  return best;
}

/** The one place that is hovered, where all are drawn as one. */
function Hovered(props: { sheet: string; layout: SheetLayout; result: ServedArrangement; plan: Plan }) {
  const { sheet, layout, result, plan } = props;
  const slot = useSelection((s) => (s.hover?.arrangement === sheet ? s.hover.slot : null));
  const i = slot === null ? -1 : result.placements.slot.indexOf(slot);
  if (i < 0) return null;
  const [x, y] = plan.at(layout.at[i * 2], layout.at[i * 2 + 1]);
  return (
    <circle cx={x} cy={y} r={6} fill="none" stroke="var(--text)" strokeWidth={2}>
      <title>{`#${slotName(slot!)}`}</title>
    </circle>
  );
}

/** Drags the layout about, where it is larger than the panel. */
function pan(e: PointerEvent<SVGSVGElement>, look: Look, plan: Plan, setLook: (look: Look) => void): void {
  const target = e.currentTarget;
  target.setPointerCapture(e.pointerId);
  const move = (m: globalThis.PointerEvent) =>
    setLook({
      ...look,
      x: look.x - (m.clientX - e.clientX) / plan.k,
      y: look.y + (m.clientY - e.clientY) / plan.k,
    });
  const stop = () => {
    target.removeEventListener('pointermove', move);
    target.removeEventListener('pointerup', stop);
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', stop);
}
