'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import type { PathPoint } from '@/core/scene/schema';
import { setPoint } from '@/store/commands/paths';
import { dispatch, restGesture } from '@/store/document';
import { INK, LINEN } from '../colors';
import { dragGesture } from '../dragGesture';
import { toScreen } from '../project';
import type { ViewHandle } from '../viewState';

/** Pixels from the point to its roll knob, and to its size knob at a size of 1. */
const RING = 66;
const BAR = 40;
const BAR_START = 22;
const DIAGONAL = Math.SQRT1_2;

interface DialProps {
  view: ViewHandle;
  path: string;
  point: PathPoint;
  color: string;
}

/** Two knobs at the selected point: its roll round a ring, its size factor along a bar. */
export function PointDials({ view, path, point, color }: DialProps) {
  const at = toScreen(view, point.position);
  if (!at.ahead) return null;
  const set = (values: Partial<PathPoint>, key: string) =>
    dispatch(setPoint, { path, id: point.id, values }, key);
  const angle = (point.rollDeg * Math.PI) / 180;
  const roll = { x: at.x + Math.sin(angle) * RING, y: at.y - Math.cos(angle) * RING };
  const reach = BAR_START + BAR * Math.min(4, point.size);
  const size = { x: at.x - reach * DIAGONAL, y: at.y + reach * DIAGONAL };
  const drag =
    (key: string, onMove: (dx: number, dy: number, m: globalThis.PointerEvent) => void) =>
    (e: PointerEvent<SVGElement>) => {
      if (e.button !== 0) return;
      e.preventDefault();
      e.stopPropagation();
      (e.currentTarget as SVGElement).focus();
      const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
      dragGesture(e, key, (m) => onMove(m.clientX - box.left - at.x, m.clientY - box.top - at.y, m));
    };
  const keys = (by: (steps: number) => void) => (e: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
    if (!way) return;
    e.preventDefault();
    e.stopPropagation();
    by(way * (e.shiftKey ? 3 : 1));
  };
  const turn = (deg: number) => Math.round(((deg + 540) % 360) - 180);
  const knob = 'pointer-events-auto cursor-grab touch-none outline-none focus-visible:[&>*]:stroke-[3]';
  return (
    <g>
      <circle
        cx={at.x}
        cy={at.y}
        r={RING}
        fill="none"
        stroke={INK}
        strokeOpacity={0.28}
        strokeDasharray="2 5"
      />
      <line
        x1={at.x - BAR_START * DIAGONAL}
        y1={at.y + BAR_START * DIAGONAL}
        x2={size.x}
        y2={size.y}
        stroke={INK}
        strokeOpacity={0.35}
        strokeDasharray="2 5"
      />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Roll of the point"
        aria-valuenow={point.rollDeg}
        aria-valuetext={`${point.rollDeg}°`}
        className={knob}
        onPointerDown={drag(`roll ${point.id}`, (dx, dy, m) => {
          const deg = (Math.atan2(dx, -dy) * 180) / Math.PI;
          set({ rollDeg: m.shiftKey ? Math.round(deg / 15) * 15 : Math.round(deg) }, `roll ${point.id}`);
        })}
        onKeyDown={keys((n) => set({ rollDeg: turn(point.rollDeg + n * 5) }, `roll ${point.id}`))}
        onKeyUp={restGesture}
      >
        <title>{`Roll ${point.rollDeg}° (Shift: steps of 15°)`}</title>
        <circle cx={roll.x} cy={roll.y} r={6.5} fill={LINEN} stroke={color} strokeWidth={2} />
        <path
          d={`M${roll.x - 3} ${roll.y + 1}a3 3 0 1 1 3 2.4`}
          fill="none"
          stroke={color}
          strokeWidth={1.3}
        />
      </g>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Size at the point"
        aria-valuenow={point.size}
        aria-valuetext={`${Math.round(point.size * 100)}%`}
        className={knob}
        onPointerDown={drag(`size ${point.id}`, (dx, dy) => {
          const along = (-dx + dy) * DIAGONAL;
          set(
            { size: Number(Math.min(4, Math.max(0.05, (along - BAR_START) / BAR)).toFixed(2)) },
            `size ${point.id}`,
          );
        })}
        onKeyDown={keys((n) =>
          set({ size: Number(Math.max(0.05, point.size + n * 0.05).toFixed(3)) }, `size ${point.id}`),
        )}
        onKeyUp={restGesture}
      >
        <title>{`Size ${Math.round(point.size * 100)}%`}</title>
        <rect
          x={size.x - 5.5}
          y={size.y - 5.5}
          width={11}
          height={11}
          rx={5.5}
          ry={2}
          fill={LINEN}
          stroke={color}
          strokeWidth={2}
        />
      </g>
    </g>
  );
}
