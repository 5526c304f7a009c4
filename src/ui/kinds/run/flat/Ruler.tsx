import type { PointerEvent } from 'react';
import { rulerStep, type FlatScale } from './scale';

interface RulerProps {
  scale: FlatScale;
  y: number;
  length: number;
  unit: 'm' | 'cm';
  onPointerDown: (e: PointerEvent<SVGElement>) => void;
}

/** Metres along the path. */
export function Ruler({ scale, y, length, unit, onPointerDown }: RulerProps) {
  const step = rulerStep(scale);
  const k = unit === 'cm' ? 100 : 1;
  const places = Math.max(0, -Math.floor(Math.log10(step * k) + 1e-9));
  const first = Math.ceil(scale.from / step - 1e-9);
  const last = Math.floor(scale.to / step + 1e-9);
  const marks = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * step);
  const fine = Array.from(
    { length: Math.max(0, Math.floor((scale.to / step) * 5) - Math.ceil((scale.from / step) * 5) + 1) },
    (_, i) => ((Math.ceil((scale.from / step) * 5) + i) * step) / 5,
  );
  return (
    <g>
      <line
        x1={scale.x(Math.max(0, scale.from))}
        x2={scale.x(Math.min(length, scale.to))}
        y1={y}
        y2={y}
        stroke="var(--color-linen-400)"
      />
      <path d={strokes(scale, fine, y, 4)} fill="none" stroke="var(--color-linen-400)" strokeOpacity={0.7} />
      <path d={strokes(scale, marks, y, 7)} fill="none" stroke="var(--soft)" />
      {marks.map((s) => (
        <text
          key={s}
          x={scale.x(s)}
          y={y + 19}
          textAnchor="middle"
          fontSize={11}
          fill="var(--soft)"
          className="num select-none"
        >
          {(s * k).toFixed(places)}
        </text>
      ))}
      <rect
        x={0}
        y={y - 3}
        width={scale.width}
        height={29}
        fill="transparent"
        className="cursor-crosshair touch-none"
        onPointerDown={onPointerDown}
      >
        <title>Drag along the ruler for a keep-out</title>
      </rect>
    </g>
  );
}

/** Many short strokes as one: while a path is dragged all of them move. */
const strokes = (scale: FlatScale, places: readonly number[], y: number, height: number): string =>
  places.map((s) => `M${scale.x(s).toFixed(2)} ${y}v${height}`).join('');
