'use client';

import type { PathPoint } from '@/core/curve/schema';
import { setPoint } from '@/store/commands/paths';
import { dispatch } from '@/store/document';
import { INK, LINEN } from '../colors';
import { toScreen } from '../project';
import type { ViewHandle } from '@/view/handle';
import { Knob } from './knobs';

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
  const turn = (deg: number) => Math.round(((deg + 540) % 360) - 180);
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
      <Knob
        label="Roll of the point"
        title={`Roll ${point.rollDeg}° (Shift: steps of 15°)`}
        now={point.rollDeg}
        text={`${point.rollDeg}°`}
        centre={at}
        gesture={`roll ${point.id}`}
        onDrag={(dx, dy, m) => {
          const deg = (Math.atan2(dx, -dy) * 180) / Math.PI;
          set({ rollDeg: m.shiftKey ? Math.round(deg / 15) * 15 : Math.round(deg) }, `roll ${point.id}`);
        }}
        onStep={(n) => set({ rollDeg: turn(point.rollDeg + n * 5) }, `roll ${point.id}`)}
      >
        <circle cx={roll.x} cy={roll.y} r={6.5} fill={LINEN} stroke={color} strokeWidth={2} />
        <path
          d={`M${roll.x - 3} ${roll.y + 1}a3 3 0 1 1 3 2.4`}
          fill="none"
          stroke={color}
          strokeWidth={1.3}
        />
      </Knob>
      <Knob
        label="Size at the point"
        title={`Size ${Math.round(point.size * 100)}%`}
        now={point.size}
        text={`${Math.round(point.size * 100)}%`}
        centre={at}
        gesture={`size ${point.id}`}
        onDrag={(dx, dy) => {
          const along = (-dx + dy) * DIAGONAL;
          set(
            { size: Number(Math.min(4, Math.max(0.05, (along - BAR_START) / BAR)).toFixed(2)) },
            `size ${point.id}`,
          );
        }}
        onStep={(n) =>
          set({ size: Number(Math.max(0.05, point.size + n * 0.05).toFixed(3)) }, `size ${point.id}`)
        }
      >
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
      </Knob>
    </g>
  );
}
