'use client';

import { compilePath } from '@/core/curve/compile';
import { polyline } from '@/core/curve/sample';
import { newPoint } from '@/core/scene/defaults';
import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { metres } from '@/words/numbers';
import { INK, LINEN, THREAD_COLORS } from '../colors';
import { toScreen } from '../project';
import { lastPoint } from '../drawTool';
import { allSnaps } from '../snap/snapPoints';
import { useSnap } from '../snap/snapState';
import { useView } from '../viewState';
import { screenLine } from './lines';
import { SnapMark } from './SnapMark';
import { Tag } from './Tag';
import { useFrames } from './useFrames';

/** So many snap points are marked while something can be connected to them. */
const MOST_SNAPS = 400;

/** The path that is being drawn, with the stretch to the pointer and the lengths so far. */
export function DrawPreview() {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const { points, ahead, closing, snap } = useView((s) => s.drawing);
  const kind = useView((s) => s.pointKind);
  const snaps = useSnap();
  const units = useDocument((s) => s.scene.units);
  if (tool !== 'draw' || !view) return null;
  // Going on with a stroke, the drawing begins at its end.
  const before = points.length === 0 ? lastPoint() : undefined;
  const started = before ? [before] : points;
  const all: Vec3[] = ahead && !closing ? [...started, ahead] : started;
  const compiled = compilePath({
    source: { kind: 'points', points: all.map((p, i) => newPoint(`draw${i}`, kind, p)) },
    closed: closing,
  });
  const last = started.at(-1);
  const label = ahead && toScreen(view, ahead);
  const offers = snaps.on && snaps.snaps ? allSnaps(MOST_SNAPS) : [];
  const step = last && ahead ? Math.hypot(ahead[0] - last[0], ahead[1] - last[1], ahead[2] - last[2]) : 0;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      {offers.map((p, i) => {
        const at = toScreen(view, p);
        return at.ahead && <circle key={`snap ${i}`} cx={at.x} cy={at.y} r={3} fill={LINEN} stroke={INK} />;
      })}
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
        const next = i === started.length;
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
      {snap && <SnapMark view={view} snap={snap} />}
      {label && last && compiled.ok && (
        <Tag
          mark={label}
          view={view.size}
          text={
            closing
              ? `close · ${metres(compiled.path.length, units)}`
              : `${metres(step, units)} of ${metres(compiled.path.length, units)}`
          }
        />
      )}
    </svg>
  );
}
