'use client';

import { useRef } from 'react';
import { middleOf } from '@/core/curve/reshape';
import type { Vec3 } from '@/core/math/vec3';
import type { PathPoint, PointsPath } from '@/core/curve/schema';
import { transformPoints } from '@/store/commands/pathEdits';
import { dispatch } from '@/store/document';
import { INK, LINEN } from '../colors';
import { keptWay } from '../onSurface';
import { toScreen, viewNormal } from '../project';
import { useView } from '../viewState';
import type { ViewHandle } from '@/view/handle';
import { Knob } from './knobs';

const RING = 58;

/** Several selected points: a ring that turns them about their middle, and a knob that sizes them. */
export function SelectionHandles({
  view,
  path,
  shown,
  ids,
  color,
}: {
  view: ViewHandle;
  path: PointsPath;
  /** Its points where they are now. */
  shown: PathPoint[];
  ids: string[];
  color: string;
}) {
  const mode = useView((s) => s.mode);
  const chosen = path.source.points.filter((p) => ids.includes(p.id));
  const middle = middleOf(chosen.map((p) => p.position));
  const seen = shown.filter((p) => ids.includes(p.id)).map((p) => p.position);
  const at = toScreen(view, middleOf(seen));
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
          ...(motion.angle !== undefined && { turn: { axis: keptWay(path, axis), angle: motion.angle } }),
          ...(motion.size !== undefined && { size: motion.size }),
        },
      },
      key,
    );
  // What is turned or sized is always the points as they were at the press.
  const from = useRef(chosen);
  const hold = () => void (from.current = chosen);
  const step = Math.PI / 12;
  const key = `${path.id} ${ids.join(' ')}`;
  if (!at.ahead) return null;
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
      <Knob
        label="Turn the points"
        title="Turn the points (Shift: steps of 15°)"
        now={0}
        centre={at}
        gesture={`turn ${key}`}
        onPress={hold}
        onDrag={(dx, dy, m) => {
          const angle = -Math.atan2(dx, -dy);
          apply({ angle: m.shiftKey ? Math.round(angle / step) * step : angle }, `turn ${key}`, from.current);
        }}
        onStep={(n) => apply({ angle: (n * Math.PI) / 36 }, `turn ${key}`)}
      >
        <circle cx={at.x} cy={at.y - RING} r={7.5} fill={LINEN} stroke={color} strokeWidth={2} />
      </Knob>
      <Knob
        label="Size the points"
        title="Size the points about their middle"
        now={1}
        centre={at}
        gesture={`size ${key}`}
        onPress={hold}
        onDrag={(dx) => apply({ size: Math.max(0.01, dx / RING) }, `size ${key}`, from.current)}
        onStep={(n) => apply({ size: n > 0 ? 1 + n * 0.05 : 1 / (1 - n * 0.05) }, `size ${key}`)}
      >
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
      </Knob>
    </g>
  );
}
