'use client';

import type { PointerEvent } from 'react';
import type { Spans } from '@/core/arrange/spans/schema';
import type { Bounds } from '@/core/mesh/mesh';
import { setSpanEnd } from '@/store/commands/spans';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { useSize } from '../../../flat/useSize';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

const EMPTY: Bounds = { min: [-0.1, 0, -0.1], max: [0.1, 1, 0.1] };
/** Where there are no posts. */
const NO_POST: Bounds = { min: [0, 0, 0], max: [0, 0.5, 0] };
/** Clear of the panel's edges, pixels. */
const MARGIN = 16;

/** One member from the side, between its two posts; both its ends are dragged up and down. */
export function SpansFlat({ arrangement: a }: { arrangement: Spans }) {
  const [frame, size] = useSize();
  const readOnly = useDocument((s) => s.readOnly !== null);
  const bounds = useEngine((s) => s.result.propBounds);
  const posts = useEngine((s) => s.result.arrangements.get(a.on)?.placements);
  const scene = useDocument((s) => s.scene);
  const postId = posts?.props[posts.prop[0]] ?? '';
  const post = a.divisions ? NO_POST : (bounds[postId] ?? EMPTY);
  const member = bounds[a.props[0]?.prop ?? ''] ?? EMPTY;
  const snapOf = (name: string | null) =>
    scene.props.find((p) => p.id === postId)?.snapPoints.find((s) => s.name === name)?.position[1] ?? 0;
  const heights = { from: snapOf(a.from.snap) + a.from.offset[1], to: snapOf(a.to.snap) + a.to.offset[1] };
  const top = Math.max(post.max[1], heights.from, heights.to, 0.1) * 1.15;
  const k = (size.height - 2 * MARGIN) / top;
  const y = (h: number) => size.height - MARGIN - h * k;
  const [xa, xb] = [size.width * 0.28, size.width * 0.72];
  const color = THREAD_COLORS[a.thread];
  const thick = Math.max(3, (member.max[1] - member.min[1]) * a.size * k);
  const grab = (end: 'from' | 'to') => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || readOnly) return;
    e.preventDefault();
    const [ox, oy, oz] = a[end].offset;
    const key = `end ${end} ${a.id}`;
    dragGesture(e, key, (m) => {
      const offset: [number, number, number] = [
        ox,
        Number((oy - (m.clientY - e.clientY) / k).toFixed(3)),
        oz,
      ];
      // With Shift both ends go together.
      dispatch(setSpanEnd, { id: a.id, end: m.shiftKey ? 'both' : end, values: { offset } }, key);
    });
  };
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Span">
        <HeadWords
          words={`${a.divisions ? 'From division to division' : 'From post to post'}, from the side. Drag an end up or down; with Shift both.`}
        />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="span">
        {size.width > 0 && k > 0 && (
          <svg width={size.width} height={size.height} className="absolute inset-0 block">
            <line x1={0} x2={size.width} y1={y(0)} y2={y(0)} stroke="var(--edge)" />
            {[xa, xb].map((x) => (
              <rect
                key={x}
                x={x + post.min[2] * k}
                y={y(post.max[1])}
                width={Math.max(3, (post.max[2] - post.min[2]) * k)}
                height={(post.max[1] - post.min[1]) * k}
                rx={3}
                fill="var(--well)"
                stroke="var(--soft)"
              />
            ))}
            <line
              x1={xa}
              x2={xb}
              y1={y(heights.from) - thick / 2}
              y2={y(heights.to) - thick / 2}
              stroke={color}
              strokeOpacity={0.75}
              strokeWidth={thick}
            />
            {(['from', 'to'] as const).map((end) => (
              <circle
                key={end}
                cx={end === 'from' ? xa : xb}
                cy={y(heights[end])}
                r={7}
                fill={color}
                stroke="var(--paper)"
                strokeWidth={2}
                role="button"
                aria-label={end === 'from' ? 'Where it leaves its post' : 'Where it meets the next'}
                className="cursor-ns-resize touch-none"
                onPointerDown={grab(end)}
              />
            ))}
          </svg>
        )}
      </div>
    </div>
  );
}
