'use client';

import { Ban, Maximize, Minus, Plus } from 'lucide-react';
import { useEffect, useMemo, useState, type PointerEvent } from 'react';
import type { PartRange } from '@/core/arrange/result';
import type { Run } from '@/core/arrange/run/schema';
import type { Scene } from '@/core/scene/schema';
import { slotParts } from '@/core/arrange/slotId';
import { addKeepOut } from '@/store/commands/gaps';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { nudgeSlot } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { IconButton } from '../../../controls/Button';
import { useSize } from '../../../flat/useSize';
import { Segmented } from '../../../controls/Segmented';
import { metres } from '@/words/numbers';
import { Heights } from './Heights';
import { Insets } from './Insets';
import { OneOfMany } from './OneOfMany';
import { KeepOuts } from './KeepOuts';
import { Ruler } from './Ruler';
import { flatScale, zoomed } from './scale';
import { PulleyControls } from './PulleyControls';
import { SpacingChart } from './SpacingChart';
import { Tags } from './Tags';

const TABS = [
  { value: 'props', text: 'Props' },
  { value: 'spacing', text: 'Spacing' },
  { value: 'heights', text: 'Heights' },
] as const;

/** The run unrolled: every prop on the line, gaps as rings, insets and keep-outs to drag, a ruler. */
export function RunFlat({ arrangement: run }: { arrangement: Run }) {
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const [frame, size] = useSize();
  const [zoom, setZoom] = useState<{ from: number; to: number } | null>(null);
  const [partIndex, setPart] = useState(0);
  const [rowIndex, setRow] = useState(0);
  const [tab, setTab] = useState<(typeof TABS)[number]['value']>('props');
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
  const path = scene.paths.find((p) => p.id === part?.path);
  const rowCount = part?.rows ?? 1;
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
      <div className="flex h-[42px] shrink-0 items-center gap-3 px-4">
        <h2 className="font-display text-base font-semibold">Line</h2>
        {part && (
          <span className="text-[12.5px] text-soft">
            {path?.name}, {metres(length, scene.units, 1)}, unrolled
          </span>
        )}
        {result && result.parts.length > 1 && (
          <OneOfMany
            label="Which path"
            count={result.parts.length}
            value={partIndex}
            nameOf={(i) => partName(result.parts[i], scene)}
            onChange={setPart}
          />
        )}
        {rowCount > 1 && (
          <OneOfMany
            label="Which row"
            count={rowCount}
            value={rowIndex}
            nameOf={(i) => `Row ${i + 1}`}
            onChange={setRow}
          />
        )}
        <span className="flex-1" />
        <Segmented
          label="What the flat view shows"
          hint="What is drawn over the length of the path"
          value={tab}
          options={TABS}
          onChange={setTab}
        />
        {part && <PulleyControls run={run} closed={part.closed} />}
        <IconButton
          name="Add a keep-out"
          disabled={!part || readOnly}
          onClick={() => keepOut(length * 0.45, length * 0.55)}
        >
          <Ban size={15} />
        </IconButton>
        <span className="h-4 w-px bg-edge" />
        <IconButton name="Zoom out" disabled={!zoom} onClick={() => zoomBy(1 / 1.6)}>
          <Minus size={15} />
        </IconButton>
        <IconButton name="Zoom in" disabled={!part} onClick={() => zoomBy(1.6)}>
          <Plus size={15} />
        </IconButton>
        <IconButton name="Show all of the line" disabled={!zoom} onClick={() => setZoom(null)}>
          <Maximize size={14} />
        </IconButton>
      </div>
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
            unit={scene.units}
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
            unit={scene.units}
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
            <Ruler scale={scale} y={rulerY} length={length} unit={scene.units} onPointerDown={dragRuler} />
            <Tags
              run={run}
              scene={scene}
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
              unit={scene.units}
              disabled={readOnly}
            />
          </svg>
        )}
      </div>
    </div>
  );
}

/** A stretch of a run by its path, and by the number of its stroke where that is not the first. */
function partName({ path, stroke }: PartRange, scene: Scene): string {
  const name = scene.paths.find((p) => p.id === path)?.name ?? '?';
  return stroke > 0 ? `${name} · ${stroke + 1}` : name;
}
