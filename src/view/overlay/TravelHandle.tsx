'use client';

import { travelOf, type Arrangement } from '@/core/arrange/registry';
import { STATE } from '@/core/arrange/result';
import type { Vec3 } from '@/core/math/vec3';
import { setTravel } from '@/store/commands/travel';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { LINEN, THREAD_COLORS } from '../colors';
import { toScreen } from '../project';
import { dragTravel, stepTravel, type TravelDrag } from '../travelDrag';
import { useView } from '../viewState';
import { Knob } from './knobs';
import { useFrames } from './useFrames';

/** The grip by which a whole arrangement is slid over its surface, along its path, or about its axis. */
export function TravelHandle({ arrangement: a }: { arrangement: Arrangement }) {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const placements = useEngine((s) => s.result.arrangements.get(a.id)?.placements);
  const travel = travelOf(a);
  if (!view || !travel?.on || !a.visible || readOnly || tool !== 'pick' || !placements) return null;
  const row = placements.state.indexOf(STATE.placed);
  if (row < 0) return null;
  const grip = Array.from(placements.position.subarray(row * 3, row * 3 + 3)) as Vec3;
  const at = toScreen(view, grip);
  if (!at.ahead) return null;
  const color = THREAD_COLORS[a.thread];
  const key = `travel ${a.id}`;
  const drag = { to: null as TravelDrag | null };
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Travel">
      <Knob
        label="Slide it on"
        title="Drag to slide all of it; arrow keys in steps"
        now={travel.way === 'turn' ? travel.turn.byDeg : travel[travel.way === 'along' ? 'along' : 'u'].by}
        centre={at}
        gesture={key}
        onPress={() => (drag.to = dragTravel(travel, at.x, at.y))}
        onDrag={(dx, dy, m) => {
          const values = drag.to?.(at.x + dx, at.y + dy, m.shiftKey);
          if (values) dispatch(setTravel, { id: a.id, values }, key);
        }}
        onStep={(steps) =>
          dispatch(setTravel, { id: a.id, values: stepTravel(travel, steps) }, `${key} keys`)
        }
      >
        <circle cx={at.x} cy={at.y} r={14} fill="transparent" />
        <path
          d={`M${at.x} ${at.y - 11}l9 11l-9 11l-9 -11z`}
          fill={color}
          stroke={LINEN}
          strokeWidth={1.6}
          strokeLinejoin="round"
        />
        <path
          d={`M${at.x - 3.5} ${at.y}h7M${at.x} ${at.y - 3.5}v7`}
          stroke={LINEN}
          strokeWidth={1.5}
          strokeLinecap="round"
        />
      </Knob>
    </svg>
  );
}
