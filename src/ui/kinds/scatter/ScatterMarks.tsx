'use client';

import type { Scatter } from '@/core/arrange/scatter/schema';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { useFrames } from '@/view/overlay/useFrames';
import { toScreen } from '@/view/project';

/** More marks than this are thinned: they say where, and the flat view says how many. */
const MOST = 4000;

/** Before there is any prop, a small mark on every place that will be filled. */
export function ScatterMarks({ arrangement: a }: { arrangement: Scatter }) {
  const view = useFrames();
  const p = useEngine((s) => s.result.arrangements.get(a.id)?.placements);
  if (!view || !a.visible || !p || a.props.length > 0) return null;
  const step = Math.ceil(p.count / MOST);
  let d = '';
  for (let i = 0; i < p.count; i += step) {
    const at = toScreen(view, [p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
    if (at.ahead) d += `M${at.x.toFixed(1)} ${at.y.toFixed(1)}h0`;
  }
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="img"
      aria-label="Places to be filled"
    >
      <path d={d} fill="none" stroke="white" strokeWidth={6} strokeLinecap="round" opacity={0.7} />
      <path d={d} fill="none" stroke={THREAD_COLORS[a.thread]} strokeWidth={4} strokeLinecap="round" />
    </svg>
  );
}
