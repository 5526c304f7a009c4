'use client';

import { useEffect, useMemo, useState, type PointerEvent } from 'react';
import type { Run } from '@/core/arrange/run/schema';
import { slotParts } from '@/core/arrange/slotId';
import { addKeepOut } from '@/store/commands/gaps';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { nudgeSlot } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { useSize } from '../../../flat/useSize';
import { Heights } from './Heights';
import { Insets } from './Insets';
import { KeepOuts } from './KeepOuts';
import { Ruler } from './Ruler';
import { RunHead, type RunTab } from './RunHead';
import { flatScale, zoomed } from './scale';
import { SpacingChart } from './SpacingChart';
import { Tags } from './Tags';

/** The run unrolled: every prop on the line, gaps as rings, insets and keep-outs to drag, a ruler. */
export function RunFlat({ arrangement: run }: { arrangement: Run }) {
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const props = useDocument((s) => s.scene.props);
  const units = useDocument((s) => s.scene.units);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const [frame, size] = useSize();
  const [zoom, setZoom] = useState<{ from: number; to: number } | null>(null);
  const [partIndex, setPart] = useState(0);
  const [rowIndex, setRow] = useState(0);
  const [tab, setTab] = useState<RunTab>('props');
  const [fresh, setFresh] = useState<{ from: number; to: number } | null>(null);
  const part = result?.parts[Math.min(partIndex, result.parts.length - 1)];
  const length = part?.length ?? 0;
  const scale = useMemo(
    () =>
      flatScale(
        zoom ? Math.min(zoom.from, length) : 0,
        zoom ? Math.min(zoom.to, length) : length || 1,
        size.width,
      ),
    [zoom, length, size.width],
  );
  // Wheel listeners of React are passive; zooming must keep the page from scrolling.
  useEffect(() => {
    const element = frame.current;
    if (!element || length === 0) return undefined;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const at = scale.s(e.clientX - element.getBoundingClientRect().left);
      const next = zoomed(scale, at, Math.exp(-e.deltaY * 0.0016), length);
      setZoom(next.to - next.from >= length * (1 - 1e-9) ? null : next);
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [frame, scale, length]);

  const zoomBy = (factor: number) => {
    const next = zoomed(scale, (scale.from + scale.to) / 2, factor, length);
    setZoom(next.to - next.from >= length * (1 - 1e-9) ? null : next);
  };
  const keepOut = (from: number, to: number) =>
    part &&
    dispatch(addKeepOut, {
      id: run.id,
      keepOut: { kind: 'range', from, to, part: part.part, stroke: part.stroke },
    });
  /** Dragging along the ruler keeps a stretch out. */
  const dragRuler = (e: PointerEvent<SVGElement>) => {
    if (readOnly || !part || e.button !== 0) return;
    const target = e.currentTarget;
    const left = frame.current!.getBoundingClientRect().left;
    const hold = (clientX: number) => Math.min(length, Math.max(0, scale.s(clientX - left)));
    const start = hold(e.clientX);
    target.setPointerCapture(e.pointerId);
    let span: { from: number; to: number } | null = null;
    const move = (m: Event) => {
      const at = hold((m as globalThis.PointerEvent).clientX);
      span = { from: Math.min(start, at), to: Math.max(start, at) };
      setFresh(span);
    };
    const stop = () => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', stop);
      setFresh(null);
      const round = (v: number) => Number(v.toFixed(3));
      if (span && scale.x(span.to) - scale.x(span.from) > 4) {
        keepOut(round(span.from), round(span.to));
      }
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', stop);
  };
  const rowNumbers = useMemo(() => {
    if (!result || !part) return [];
    const all = Array.from({ length: part.end - part.start }, (_, i) => part.start + i);
    if (part.rows < 2) return all;
    const present = [...new Set(all.map((i) => slotParts(result.placements.slot[i]).row))];
    const wanted = present[Math.min(rowIndex, present.length - 1)];
    return all.filter((i) => slotParts(result.placements.slot[i]).row === wanted);
  }, [result, part, rowIndex]);
  const rulerY = size.height - 26;
  return (
    <div className="flex h-full flex-col">
      <RunHead
        run={run}
        result={result}
        part={part}
        zoomed={zoom !== null}
        readOnly={readOnly}
        tab={tab}
        onTab={setTab}
        partIndex={partIndex}
        onPart={setPart}
        rowIndex={rowIndex}
        onRow={setRow}
        onKeepOut={() => keepOut(length * 0.45, length * 0.55)}
        onZoom={(factor) => (factor === null ? setZoom(null) : zoomBy(factor))}
      />
      <div
        ref={frame}
        className="relative min-h-0 flex-1 overflow-hidden"
        data-testid="flat"
        data-from={scale.from}
        data-to={scale.to}
      >
        {!part && (
          <p className="px-4 text-sm text-soft">
            {run.paths.length === 0
              ? 'Choose a path for this run, and it hangs here.'
              : 'Nothing to unroll yet: see Checks.'}
          </p>
        )}
        {part && result && tab === 'spacing' && (
          <SpacingChart
            run={run.id}
            result={result}
            rows={rowNumbers}
            part={part}
            unit={units}
            color={THREAD_COLORS[run.thread]}
          />
        )}
        {part && result && tab === 'heights' && size.width > 0 && (
          <Heights
            run={run}
            result={result}
            part={part}
            rows={rowNumbers}
            scale={scale}
            width={size.width}
            height={size.height}
            unit={units}
          />
        )}
        {part && result && tab === 'props' && size.width > 0 && (
          <svg width={size.width} height={size.height} className="absolute inset-0 block">
            <KeepOuts
              run={run}
              part={part.part}
              stroke={part.stroke}
              length={length}
              closed={part.closed}
              scale={scale}
              height={rulerY}
              fresh={fresh}
              disabled={readOnly}
            />
            <Ruler scale={scale} y={rulerY} length={length} unit={units} onPointerDown={dragRuler} />
            <Tags
              run={run}
              props={props}
              units={units}
              result={result}
              part={part}
              rows={rowNumbers}
              scale={scale}
              room={rulerY - 34}
              onToggle={(slot, removed) =>
                !readOnly && dispatch(setSlotsRemoved, { id: run.id, slots: [slot], removed })
              }
              onNudge={(slot, values, key) =>
                !readOnly && dispatch(nudgeSlot, { id: run.id, slot, values }, key)
              }
            />
            <Insets
              run={run}
              metresIn={result.facts.insets}
              length={length}
              scale={scale}
              y={rulerY}
              color={THREAD_COLORS[run.thread]}
              unit={units}
              disabled={readOnly}
            />
          </svg>
        )}
      </div>
    </div>
  );
}
