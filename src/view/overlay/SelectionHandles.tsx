'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import { middleOf } from '@/core/curve/reshape';
import type { Vec3 } from '@/core/math/vec3';
import type { PointsPath } from '@/core/scene/schema';
import { transformPoints } from '@/store/commands/pathEdits';
import { dispatch, restGesture } from '@/store/document';
import { INK, LINEN } from '../colors';
import { dragGesture } from '../dragGesture';
import { toScreen, viewNormal } from '../project';
import { useView, type ViewHandle } from '../viewState';

const RING = 58;

/** Several selected points: a ring that turns them about their middle, and a knob that sizes them. */
export function SelectionHandles({
  view,
  path,
  ids,
  color,
}: {
  view: ViewHandle;
  path: PointsPath;
  ids: string[];
  color: string;
}) {
  const mode = useView((s) => s.mode);
  const chosen = path.source.points.filter((p) => ids.includes(p.id));
  const middle = middleOf(chosen.map((p) => p.position));
  const at = toScreen(view, middle);
  if (!at.ahead) return null;
  // About up; seen from a side, about the way that one looks.
  const n = viewNormal(view.camera);
  const flat = mode === 'front' || mode === 'side' || Math.abs(n[1]) < 0.08;
  const axis: Vec3 = flat ? [-n[0], -n[1], -n[2]] : [0, 1, 0];
  const apply = (motion: { angle?: number; size?: number }, key: string, from = chosen) =>
    dispatch(
      transformPoints,
      {
        path: path.id,
        ids,
        from,
        motion: {
          about: middle,
          ...(motion.angle !== undefined && { turn: { axis, angle: motion.angle } }),
          ...(motion.size !== undefined && { size: motion.size }),
        },
      },
      key,
    );
  const drag =
    (
      key: string,
      read: (dx: number, dy: number, m: globalThis.PointerEvent) => { angle?: number; size?: number },
    ) =>
    (e: PointerEvent<SVGElement>) => {
      if (e.button !== 0) return;
      e.preventDefault();
      e.stopPropagation();
      (e.currentTarget as SVGElement).focus();
      const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
      // What is turned or sized is always the points as they were at the press.
      const from = chosen;
      dragGesture(e, key, (m) =>
        apply(read(m.clientX - box.left - at.x, m.clientY - box.top - at.y, m), key, from),
      );
    };
  const keys =
    (by: (way: number) => { angle?: number; size?: number }, key: string) => (e: KeyboardEvent) => {
      const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
      if (!way) return;
      e.preventDefault();
      e.stopPropagation();
      apply(by(way), key);
    };
  const knob = 'pointer-events-auto cursor-grab touch-none outline-none focus-visible:[&>*]:stroke-[3]';
  const step = Math.PI / 12;
  const key = `${path.id} ${ids.join(' ')}`;
  return (
    <g>
      <circle
        cx={at.x}
        cy={at.y}
        r={RING}
        fill="none"
        stroke={INK}
        strokeOpacity={0.4}
        strokeDasharray="3 5"
      />
      <circle cx={at.x} cy={at.y} r={3} fill={color} />
      <g
        role="slider"
        tabIndex={0}
        aria-label="Turn the points"
        aria-valuenow={0}
        className={knob}
        onPointerDown={drag(`turn ${key}`, (dx, dy, m) => {
          const angle = -Math.atan2(dx, -dy);
          return { angle: m.shiftKey ? Math.round(angle / step) * step : angle };
        })}
        onKeyDown={keys((way) => ({ angle: (way * Math.PI) / 36 }), `turn ${key}`)}
        onKeyUp={restGesture}
      >
        <title>Turn the points (Shift: steps of 15°)</title>
        <circle cx={at.x} cy={at.y - RING} r={7.5} fill={LINEN} stroke={color} strokeWidth={2} />
      </g>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Size the points"
        aria-valuenow={1}
        className={knob}
        onPointerDown={drag(`size ${key}`, (dx) => ({ size: Math.max(0.01, dx / RING) }))}
        onKeyDown={keys((way) => ({ size: way > 0 ? 1.05 : 1 / 1.05 }), `size ${key}`)}
        onKeyUp={restGesture}
      >
        <title>Size the points about their middle</title>
        <rect
          x={at.x + RING - 6.5}
          y={at.y - 6.5}
          width={13}
          height={13}
          rx={3}
          fill={LINEN}
          stroke={color}
          strokeWidth={2}
        />
      </g>
    </g>
  );
}
