'use client';

import type { PointerEvent } from 'react';
import type { Riders } from '@/core/arrange/riders/schema';
import type { Bounds } from '@/core/mesh/mesh';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { useSize } from '../../../flat/useSize';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

const EMPTY: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] };

/** The seat of riders: their leader from above, its front to the right, and the rider on it to be dragged. */
export function RidersFlat({ arrangement: a }: { arrangement: Riders }) {
  const [frame, size] = useSize();
  const readOnly = useDocument((s) => s.readOnly !== null);
  const scene = useDocument((s) => s.scene);
  const bounds = useEngine((s) => s.result.propBounds);
  const leaders = useEngine((s) => s.result.arrangements.get(a.on)?.placements);
  const leaderProp = leaders?.props[leaders.prop[0]] ?? '';
  const own = bounds[leaderProp] ?? EMPTY;
  const rider = bounds[a.props[0]?.prop ?? ''] ?? EMPTY;
  const [, , z0] = own.min;
  const [, , z1] = own.max;
  const wide = Math.max(own.max[0] - own.min[0], 0.05);
  const long = Math.max(z1 - z0, 0.05);
  const k = Math.min((size.width - 120) / (long * 1.3), (size.height - 24) / (wide * 1.3));
  // Its front (Z) to the right, its left (X) up.
  const at = (x: number, z: number) => ({
    x: size.width / 2 + (z - (z0 + z1) / 2) * k,
    y: size.height / 2 - (x - (own.min[0] + own.max[0]) / 2) * k,
  });
  const color = THREAD_COLORS[a.thread];
  const grab = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || readOnly) return;
    e.preventDefault();
    const [x, y, z] = a.offset;
    const key = `seat ${a.id}`;
    dragGesture(e, key, (m) => {
      const round = (v: number) => Number(v.toFixed(4));
      const offset: [number, number, number] = [
        round(x - (m.clientY - e.clientY) / k),
        y,
        round(z + (m.clientX - e.clientX) / k),
      ];
      dispatch(setArrangement, { id: a.id, values: { offset } }, key);
    });
  };
  const [p, q] = [at(own.max[0], z0), at(own.min[0], z1)];
  const seat = at(a.offset[0], a.offset[2]);
  const [rw, rl] = [(rider.max[0] - rider.min[0]) * a.size * k, (rider.max[2] - rider.min[2]) * a.size * k];
  const nameOf = (id: string) => scene.props.find((x) => x.id === id)?.name ?? 'nothing';
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Seat">
        <HeadWords
          words={`${nameOf(leaderProp)} from above, its front to the right. Drag the rider on it.`}
        />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="seat">
        {size.width > 0 && k > 0 && (
          <svg width={size.width} height={size.height} className="absolute inset-0 block">
            <rect
              x={p.x}
              y={p.y}
              width={q.x - p.x}
              height={q.y - p.y}
              rx={6}
              fill="var(--well)"
              stroke="var(--soft)"
            />
            <path d={`M${q.x + 8} ${(p.y + q.y) / 2 - 6}l10 6l-10 6z`} fill="var(--soft)">
              <title>Its front</title>
            </path>
            <g transform={`rotate(${a.turnDeg === 0 ? 0 : -a.turnDeg} ${seat.x} ${seat.y})`}>
              <rect
                x={seat.x + rider.min[2] * a.size * k}
                y={seat.y - rider.max[0] * a.size * k}
                width={rl}
                height={rw}
                rx={3}
                fill={color}
                fillOpacity={0.18}
                stroke={color}
              />
            </g>
            <circle
              cx={seat.x}
              cy={seat.y}
              r={8}
              fill={color}
              stroke="var(--paper)"
              strokeWidth={2}
              role="button"
              aria-label="The rider’s seat"
              className="cursor-move touch-none"
              onPointerDown={grab}
            />
          </svg>
        )}
      </div>
    </div>
  );
}
