'use client';

import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { through } from '@/core/mesh/surface';
import { INK, THREAD_COLORS } from '../colors';
import { toScreen } from '../project';
import { useView } from '../viewState';
import { useFrames } from './useFrames';

/** Where cloth is held, while the hold tool is in hand: at the nearest vertex of each place. */
export function HoldMarks() {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const node = useSelection((s) => s.node);
  const surface = useDocument((s) =>
    s.scene.surfaces.find((x) => node?.kind === 'surface' && x.id === node.id),
  );
  const served = useEngine((s) => (surface ? s.result.surfaces.get(surface.id) : undefined));
  const cloth = surface?.deformers.find((d) => d.on && d.kind === 'cloth');
  const rest = served?.rest?.undeformed;
  if (!view || tool !== 'hold' || cloth?.kind !== 'cloth' || !rest || !served?.positions) return null;
  const { positions, matrix } = served;
  const nearest = ([x, y, z]: readonly number[]) => {
    let best = 0;
    let least = Infinity;
    for (let o = 0; o < rest.length; o += 3) {
      const away = (rest[o] - x) ** 2 + (rest[o + 1] - y) ** 2 + (rest[o + 2] - z) ** 2;
      if (away < least) [best, least] = [o, away];
    }
    return toScreen(view, through(matrix, [positions[best], positions[best + 1], positions[best + 2]]));
  };
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Held places">
      {cloth.holds.map((hold, i) => {
        const at = nearest(hold);
        return (
          at.ahead && (
            <circle
              key={i}
              cx={at.x}
              cy={at.y}
              r={5.5}
              fill={THREAD_COLORS.weld}
              stroke={INK}
              strokeWidth={1.6}
              aria-label={`Held place ${i + 1}`}
            />
          )
        );
      })}
    </svg>
  );
}
