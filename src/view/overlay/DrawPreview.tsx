'use client';

import { compilePath } from '@/core/curve/compile';
import { polyline } from '@/core/curve/sample';
import { newPoint } from '@/core/scene/defaults';
import type { Vec3 } from '@/core/math/vec3';
import { THREAD_COLORS } from '../colors';
import { toScreen } from '../project';
import { useView, type ViewHandle } from '../viewState';
import { useFrames } from './useFrames';

/** SVG path data of points in the scene; pieces behind the camera are left out. */
export function screenLine(view: ViewHandle, position: ArrayLike<number>): string {
  let d = '';
  let open = false;
  for (let i = 0; i + 2 < position.length; i += 3) {
    const p = toScreen(view, [position[i], position[i + 1], position[i + 2]]);
    if (p.ahead) d += `${open ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
    open = p.ahead;
  }
  return d;
}

/** The path that is being drawn, with the stretch to the pointer and the lengths so far. */
export function DrawPreview() {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const { points, ahead, closing } = useView((s) => s.drawing);
  if (tool !== 'draw' || !view) return null;
  const all: Vec3[] = ahead && !closing ? [...points, ahead] : points;
  const compiled = compilePath({
    source: { kind: 'points', points: all.map((p, i) => newPoint(`draw${i}`, 'smooth', p)) },
    closed: closing,
  });
  const last = points.at(-1);
  const label = ahead && toScreen(view, ahead);
  const step = last && ahead ? Math.hypot(ahead[0] - last[0], ahead[1] - last[1], ahead[2] - last[2]) : 0;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      {compiled.ok && (
        <path
          d={screenLine(view, polyline(compiled.path).position)}
          fill="none"
          stroke={THREAD_COLORS.madder}
          strokeWidth={2.4}
        />
      )}
      {all.map((p, i) => {
        const at = toScreen(view, p);
        const next = i === points.length;
        return (
          <circle
            key={i}
            cx={at.x}
            cy={at.y}
            r={i === 0 && closing ? 9 : 5}
            fill={next ? 'none' : '#FBF8F1'}
            stroke={THREAD_COLORS.madder}
            strokeWidth={2}
          />
        );
      })}
      {label && last && compiled.ok && (
        <g transform={`translate(${label.x + 14} ${label.y + 8})`}>
          <rect width={closing ? 128 : 118} height={22} rx={5} fill="#1E2A36" />
          <text x={9} y={15} fill="#FBF8F1" className="num" fontSize={11.5}>
            {closing
              ? `close · ${compiled.path.length.toFixed(2)} m`
              : `${step.toFixed(2)} of ${compiled.path.length.toFixed(2)} m`}
          </text>
        </g>
      )}
    </svg>
  );
}
