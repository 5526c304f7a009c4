import { memo, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import type { PathPoint } from '@/core/curve/schema';
import { restGesture } from '@/store/document';
import { INK, LINEN } from '../colors';
import type { ViewHandle } from '../handle';
import { toScreen } from '../project';
import type { PointDrags } from './pointDrags';

/** Up to so many points are all live; of more those near the pointer are, and what is selected. */
const ALL_LIVE = 250;
/** Pixels about the pointer. */
const REACH = 36;

interface Mark {
  point: PathPoint;
  /** Its place in the path, from 0. */
  i: number;
  x: number;
  y: number;
}

/** The points of a path as marks to be taken hold of. Very many are drawn as one. */
export function PointMarks({
  view,
  points,
  ids,
  color,
  drags,
}: {
  view: ViewHandle;
  points: readonly PathPoint[];
  ids: readonly string[];
  color: string;
  drags: PointDrags;
}) {
  const latest = useRef(drags);
  useLayoutEffect(() => void (latest.current = drags));
  const many = points.length > ALL_LIVE;
  const pointer = usePointerOver(many);
  const marks = points.flatMap((point, i): Mark[] => {
    const { x, y, ahead } = toScreen(view, point.position);
    return ahead ? [{ point, i, x, y }] : [];
  });
  const chosen = new Set(ids);
  const away = (m: Mark) => (pointer ? Math.hypot(m.x - pointer[0], m.y - pointer[1]) : Infinity);
  // The nearest lies on top.
  const live = many
    ? marks
        .filter((m) => chosen.has(m.point.id) || away(m) < REACH)
        .sort((a, b) => away(b) - away(a))
        .slice(-ALL_LIVE)
    : marks;
  return (
    <>
      {many && (
        <path
          d={marks.map((m) => `M${m.x.toFixed(1)} ${m.y.toFixed(1)}h0`).join('')}
          stroke={color}
          strokeWidth={5}
          strokeLinecap="round"
          data-testid="all points"
        />
      )}
      {live.map(({ point, i, x, y }) => (
        <PointMark
          key={point.id}
          point={point}
          number={i + 1}
          x={x}
          y={y}
          on={chosen.has(point.id)}
          color={color}
          drags={latest}
        />
      ))}
    </>
  );
}

/** Where the pointer is over the scene, pixels; null while it is elsewhere, or where nobody asks. */
function usePointerOver(asked: boolean): [number, number] | null {
  const [at, setAt] = useState<[number, number] | null>(null);
  useEffect(() => {
    const scene = asked ? document.querySelector('[aria-label="Scene"]') : null;
    if (!scene) return;
    const move = (e: Event) => {
      const { clientX, clientY, buttons } = e as globalThis.PointerEvent;
      // What is held stays the one that is held.
      if (buttons > 0) return;
      const box = scene.getBoundingClientRect();
      setAt([clientX - box.left, clientY - box.top]);
    };
    const leave = () => setAt(null);
    scene.addEventListener('pointermove', move);
    scene.addEventListener('pointerleave', leave);
    return () => {
      scene.removeEventListener('pointermove', move);
      scene.removeEventListener('pointerleave', leave);
    };
  }, [asked]);
  return at;
}

/** Of the points of a path those that have moved on the screen are drawn anew. */
const PointMark = memo(function PointMark({
  point,
  number,
  x,
  y,
  on,
  color,
  drags,
}: {
  point: PathPoint;
  number: number;
  x: number;
  y: number;
  on: boolean;
  color: string;
  drags: RefObject<PointDrags>;
}) {
  const paint = { fill: on ? color : LINEN, stroke: on ? LINEN : color, strokeWidth: 1.8 };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Point ${number}`}
      aria-pressed={on}
      className="pointer-events-auto cursor-move touch-none outline-none [&:focus-visible>circle:first-child]:stroke-2"
      onPointerDown={(e) => drags.current.grab(point)(e)}
      onContextMenu={() => drags.current.take(point)}
      onKeyDown={(e) => drags.current.onKeyDown(point)(e)}
      onKeyUp={restGesture}
    >
      <circle cx={x} cy={y} r={11} fill="transparent" stroke={INK} strokeWidth={0} />
      {point.kind === 'corner' ? (
        <rect x={x - 5.5} y={y - 5.5} width={11} height={11} rx={2} {...paint} />
      ) : (
        <ellipse cx={x} cy={y} rx={on ? 8 : 6.5} ry={on ? 6.5 : 5.2} {...paint} />
      )}
    </g>
  );
});
