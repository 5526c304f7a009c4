'use client';

import { setLamp } from '@/store/commands/lamps';
import { dispatch, useDocument } from '@/store/document';
import { INK, LINEN, THREAD_COLORS } from '../colors';
import { usePlacedLamps } from '../lamps/usePlacedLamps';
import { toScreen } from '../project';
import { useView } from '../viewState';
import { Arms } from './Arms';
import { useFrames } from './useFrames';

/** The lights put in by hand, while one of them is worked on: that one with arms, the others to be taken by a click. */
export function LampHandles() {
  const view = useFrames();
  const lamps = usePlacedLamps();
  const chosen = useView((s) => s.lamp);
  const readOnly = useDocument((s) => s.readOnly !== null);
  if (!view || chosen === null || readOnly || !lamps.some((l) => l.id === chosen)) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Lights put in">
      {lamps.map(({ id, name, kind, at, aim }) => {
        const from = toScreen(view, at);
        const to = toScreen(view, aim);
        if (!from.ahead) return null;
        return (
          <g key={id}>
            {kind !== 'point' && to.ahead && (
              <line
                {...{ x1: from.x, y1: from.y, x2: to.x, y2: to.y }}
                stroke={THREAD_COLORS.weld}
                strokeDasharray="2 5"
                strokeWidth={1.5}
              />
            )}
            <circle
              cx={from.x}
              cy={from.y}
              r={6.5}
              fill={id === chosen ? THREAD_COLORS.weld : LINEN}
              stroke={INK}
              strokeWidth={1.5}
              className="pointer-events-auto cursor-pointer"
              onPointerDown={(e) => {
                e.stopPropagation();
                useView.setState({ lamp: id });
              }}
            >
              <title>{name}</title>
            </circle>
            {id === chosen && (
              <Arms
                view={view}
                what="the light"
                at={at}
                gesture={`lamp ${id}`}
                onMove={(place, key) => dispatch(setLamp, { id, values: { at: place } }, key)}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}
