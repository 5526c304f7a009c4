'use client';

import { frameIn } from '../framing';
import { useFramed } from '../useFramed';
import { useView } from '../viewState';
import { useFrames } from './useFrames';

/** The frame of the viewpoint that one looks through: what lies outside of it is dimmed. */
export function FrameMarks() {
  const view = useFrames();
  const framed = useFramed();
  const thirds = useView((s) => s.thirds);
  if (!view || !framed) return null;
  const { width: wide, height: tall } = view.size;
  const { x, y, width, height } = frameIn(view.size, framed.aspect);
  const inner = `M${x} ${y}h${width}v${height}h${-width}z`;
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="img"
      aria-label={`Frame of ${framed.name}`}
    >
      <path d={`M0 0h${wide}v${tall}H0z${inner}`} fillRule="evenodd" className="fill-ink-900/40" />
      <path d={inner} fill="none" strokeWidth={1.5} className="stroke-linen-50" />
      {thirds &&
        [1, 2].map((k) => (
          <path
            key={k}
            d={`M${x + (width * k) / 3} ${y}v${height}M${x} ${y + (height * k) / 3}h${width}`}
            strokeDasharray="3 5"
            className="stroke-linen-50/80"
          />
        ))}
    </svg>
  );
}
