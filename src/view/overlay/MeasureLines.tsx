'use client';

import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { metres } from '@/words/numbers';
import { INK, LINEN, THREAD_COLORS } from '../colors';
import type { ViewHandle } from '../handle';
import { measured } from '../measure/measured';
import { placeNow } from '../measure/measureTool';
import { toScreen } from '../project';
import { useView } from '../viewState';
import { SnapMark } from './SnapMark';
import { Tag } from './Tag';
import { useFrames } from './useFrames';

/** Dimension lines: those that are kept in the scene, and the one that is being taken. */
export function MeasureLines() {
  const view = useFrames();
  const measures = useDocument((s) => s.scene.measures);
  const units = useDocument((s) => s.scene.units);
  const tool = useView((s) => s.tool);
  const { taken, ahead } = useView((s) => s.measuring);
  const kept = measures.filter((m) => m.visible);
  // They go with what they are connected to.
  useEngine((s) => s.result);
  const now = tool === 'measure' ? [...taken, ...(ahead && taken.length < 3 ? [ahead] : [])] : [];
  if (!view || (kept.length === 0 && now.length === 0)) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Measures">
      {kept.map((m) => (
        <Line key={m.id} view={view} places={m.places.map(placeNow)} units={units} name={m.name} />
      ))}
      {now.length > 0 && <Line view={view} places={now.map(placeNow)} units={units} name="Measure" strong />}
      {tool === 'measure' && ahead?.snap && <SnapMark view={view} snap={ahead.snap} />}
    </svg>
  );
}

/** A dimension line through places, with what it tells. */
function Line(props: {
  view: ViewHandle;
  places: readonly Vec3[];
  units: 'm' | 'cm';
  name: string;
  strong?: boolean;
}) {
  const { view, places, units, name, strong } = props;
  const at = places.map((p) => toScreen(view, p));
  if (at.some((p) => !p.ahead)) return null;
  const color = strong ? THREAD_COLORS.madder : INK;
  const d = at.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('');
  const middle =
    places.length === 3 ? at[1] : { x: (at[0].x + at.at(-1)!.x) / 2, y: (at[0].y + at.at(-1)!.y) / 2 };
  const text = places.length > 1 ? textOf(places, units) : '';
  return (
    <g aria-label={`${name}: ${text}`} role="img">
      <path d={d} fill="none" stroke={LINEN} strokeWidth={4} opacity={0.8} />
      <path d={d} fill="none" stroke={color} strokeWidth={1.8} />
      {at.map((p, i) => (
        <circle key={i} cx={p.x} cy={p.y} r={3.5} fill={LINEN} stroke={color} strokeWidth={1.6} />
      ))}
      {text !== '' && <Tag mark={middle} view={view.size} side="above" text={text} />}
    </g>
  );
}

function textOf(places: readonly Vec3[], units: 'm' | 'cm'): string {
  const { straight, angleDeg } = measured(places);
  return angleDeg === null ? metres(straight, units, 3) : `${Number(angleDeg.toFixed(2))}°`;
}
