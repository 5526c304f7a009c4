'use client';

import { cross, type Vec3 } from '@/core/math/vec3';
import { INK, LINEN } from '../colors';
import { useFrames } from '../overlay/useFrames';
import { toScreen } from '../project';
import { useView } from '../viewState';

const CORNERS = 48;

/** The brush where it would paint: its rim on the surface, and how far its middle goes. */
export function BrushMark() {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const brush = useView((s) => s.brush);
  if (!view || tool !== 'paint' || !brush.ahead) return null;
  const { at, normal } = brush.ahead;
  const side = cross(Math.abs(normal[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0], normal);
  const long = Math.hypot(...side) || 1;
  const right = side.map((v) => v / long) as Vec3;
  const ahead = cross(normal, right);
  const ring = (radius: number) =>
    Array.from({ length: CORNERS }, (_, i) => {
      const [c, s] = [Math.cos((2 * Math.PI * i) / CORNERS), Math.sin((2 * Math.PI * i) / CORNERS)];
      const p = toScreen(view, at.map((v, k) => v + radius * (right[k] * c + ahead[k] * s)) as Vec3);
      return `${p.x},${p.y}`;
    }).join(' ');
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      <polygon points={ring(brush.radius)} fill="none" stroke={LINEN} strokeWidth={3.5} opacity={0.7} />
      <polygon points={ring(brush.radius)} fill="none" stroke={INK} strokeWidth={1.5} />
      {brush.softness > 0.02 && brush.softness < 0.98 && (
        <polygon
          points={ring(brush.radius * (1 - brush.softness))}
          fill="none"
          stroke={INK}
          strokeWidth={1}
          strokeDasharray="3 3"
        />
      )}
    </svg>
  );
}
