import type { PointerEvent } from 'react';
import type { PathPoint } from '@/core/curve/schema';
import { INK, LINEN } from '../colors';
import type { ViewHandle } from '../handle';
import { toScreen } from '../project';
import { plus } from './followPointer';

/** The two handles of a free point. */
export function FreeHandles({
  view,
  point,
  onPress,
}: {
  view: ViewHandle;
  point: PathPoint;
  onPress: (which: 'handleIn' | 'handleOut') => (e: PointerEvent<Element>) => void;
}) {
  return (['handleIn', 'handleOut'] as const).map((which) => {
    const a = toScreen(view, point.position);
    const b = toScreen(view, plus(point.position, point[which]));
    if (!a.ahead || !b.ahead) return null;
    return (
      <g key={which}>
        <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke={INK} strokeWidth={1.4} />
        <rect
          x={b.x - 5}
          y={b.y - 5}
          width={10}
          height={10}
          rx={2}
          transform={`rotate(45 ${b.x} ${b.y})`}
          fill={LINEN}
          stroke={INK}
          strokeWidth={1.6}
          className="pointer-events-auto cursor-move touch-none"
          role="button"
          aria-label={which === 'handleIn' ? 'Handle before' : 'Handle after'}
          onPointerDown={onPress(which)}
        />
      </g>
    );
  });
}
