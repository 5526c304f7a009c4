'use client';

import { INK, LINEN } from '../colors';
import { toScreen } from '../project';
import type { Snap } from '../snap/snap';
import type { ViewHandle } from '@/view/handle';
import { Tag } from './Tag';

/** What a point snapped to: a mark of its kind, and its name. Drawn inside an SVG over the scene. */
export function SnapMark({ view, snap }: { view: ViewHandle; snap: Snap }) {
  const { x, y, ahead } = toScreen(view, snap.at);
  if (!ahead) return null;
  const shape = {
    end: <path d="M-7 -7h14v14h-14z" />,
    point: <circle r={7.5} />,
    snap: <path d="M-8 0a8 8 0 1 0 16 0a8 8 0 1 0 -16 0M-2.5 0a2.5 2.5 0 1 0 5 0a2.5 2.5 0 1 0 -5 0" />,
    corner: <path d="M-7 7v-14h14" fill="none" />,
    hole: (
      <>
        <circle r={8} />
        <path d="M-3 0h6M0 -3v6" fill="none" />
      </>
    ),
    edge: <path d="M-9 5L9 -5M-3.5 -6.5l7 13" fill="none" />,
    'edge-part': <path d="M0 -9l9 9l-9 9l-9 -9z" />,
    midpoint: <path d="M0 -8l8 14h-16z" />,
    division: <path d="M0 -9l9 9l-9 9l-9 -9z" />,
    perpendicular: <path d="M-7 -7v14h14M-7 0h7v7" fill="none" />,
    axis: <path d="M-9 0h18M-5 -5v10M5 -5v10" fill="none" />,
    'on-path': <path d="M-7 -7l14 14M7 -7l-14 14" fill="none" />,
    grid: <path d="M-8 0h16M0 -8v16" fill="none" />,
    angle: <path d="M-7 7h14M-7 7l10 -12" fill="none" />,
  }[snap.kind];
  return (
    <g data-snap={snap.label}>
      <g transform={`translate(${x} ${y})`}>
        <g fill="none" stroke={LINEN} strokeWidth={4}>
          {shape}
        </g>
        <g fill="none" stroke={INK} strokeWidth={1.8}>
          {shape}
        </g>
      </g>
      <Tag mark={{ x, y }} view={view.size} side="above" text={snap.label} />
    </g>
  );
}
