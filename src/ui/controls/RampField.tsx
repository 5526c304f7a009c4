'use client';

import { Plus, RotateCcw } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { rampAt } from '@/core/math/ramp';
import type { Ramp } from '@/core/arrange/steps/schema';
import { restGesture } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { IconButton } from './Button';
import { NumberBox, type NumberSettings } from './NumberField';

const WIDTH = 238;
const HEIGHT = 84;
const PAD = 8;

interface RampFieldProps extends NumberSettings {
  label: string;
  hint: string;
  value: Ramp;
  /** What the curve is where it has no points. */
  rest: number;
  /** What it begins as, and is where it has no points; absent: `rest` all along. */
  begin?: Ramp;
  /** The values at the bottom and the top of the field. */
  range: [number, number];
  /** Values are laid out by their logarithm, as factors are. */
  log?: boolean;
  color: string;
  onChange: (ramp: Ramp, key?: string) => void;
}

/** A curve over the length of a path: drag its points, click the curve for another one, Delete takes one out. */
export function RampField(p: RampFieldProps) {
  const { value, rest, range, onChange } = p;
  const [chosen, setChosen] = useState(0);
  const box = useRef<SVGSVGElement>(null);
  const key = `ramp ${p.label}`;
  const f = (v: number) => (p.log ? Math.log(v) : v);
  const [low, high] = range.map(f);
  const x = (u: number) => PAD + u * (WIDTH - 2 * PAD);
  const y = (v: number) =>
    PAD + (1 - (Math.min(high, Math.max(low, f(v))) - low) / (high - low)) * (HEIGHT - 2 * PAD);
  const at = (px: number, py: number): [number, number] => {
    const rect = box.current!.getBoundingClientRect();
    const u = Math.min(1, Math.max(0, (px - rect.left - PAD) / (rect.width - 2 * PAD)));
    const w = Math.min(1, Math.max(0, 1 - (py - rect.top - PAD) / (rect.height - 2 * PAD)));
    const v = low + w * (high - low);
    return [Number(u.toFixed(3)), Number((p.log ? Math.exp(v) : v).toPrecision(3))];
  };
  const shown: Ramp = value.length ? value : [];
  const put = (index: number, point: [number, number], k?: string) => {
    // A point stays between its neighbours.
    const before = shown[index - 1]?.[0] ?? 0;
    const after = shown[index + 1]?.[0] ?? 1;
    onChange(
      shown.map((q, i) => (i === index ? [Math.min(after, Math.max(before, point[0])), point[1]] : q)),
      k,
    );
  };
  const insert = (point: [number, number]) => {
    if (shown.length === 0) {
      const [first, last] = p.begin ?? [
        [0, rest],
        [1, rest],
      ];
      onChange([first, point, last].sort((a, b) => a[0] - b[0]) as Ramp);
      return setChosen(1);
    }
    const index = shown.findIndex((q) => q[0] > point[0]);
    const where = index < 0 ? shown.length : index;
    onChange([...shown.slice(0, where), point, ...shown.slice(where)]);
    setChosen(where);
  };
  const grab = (index: number) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    e.currentTarget.focus();
    setChosen(index);
    dragGesture(e, key, (m) => put(index, at(m.clientX, m.clientY), key));
  };
  const keys = (index: number) => (e: KeyboardEvent) => {
    const [u, v] = shown[index];
    const step = p.step ?? 0.1;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [u - 0.02, v],
      ArrowRight: [u + 0.02, v],
      ArrowUp: [u, Number((v + step).toPrecision(10))],
      ArrowDown: [u, Number((v - step).toPrecision(10))],
    };
    if (moves[e.key]) {
      e.preventDefault();
      const [a, b] = moves[e.key];
      put(index, [Math.min(1, Math.max(0, a)), Math.min(range[1], Math.max(range[0], b))], key);
    } else if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      e.stopPropagation();
      onChange(shown.length <= 2 ? [] : shown.filter((_, i) => i !== index));
    }
  };
  const line = shown.length
    ? [[0, rampAt(shown, 0, rest)], ...shown, [1, rampAt(shown, 1, rest)]]
        .map(([u, v]) => `${x(u)},${y(v)}`)
        .join(' ')
    : `${x(0)},${y(rest)} ${x(1)},${y(rest)}`;
  const point = shown[Math.min(chosen, shown.length - 1)];
  return (
    <div className="py-1" role="group" aria-label={p.label} title={p.hint}>
      <div className="flex items-center justify-between">
        <span className="text-sm">{p.label}</span>
        {shown.length > 0 ? (
          <IconButton name={`Even ${p.label.toLowerCase()} again`} onClick={() => onChange([])}>
            <RotateCcw size={14} />
          </IconButton>
        ) : (
          <IconButton
            name={`Shape ${p.label.toLowerCase()}`}
            onClick={() =>
              onChange(
                p.begin ?? [
                  [0, rest],
                  [0.5, rest],
                  [1, rest],
                ],
              )
            }
          >
            <Plus size={15} />
          </IconButton>
        )}
      </div>
      {shown.length > 0 && (
        <>
          <svg
            ref={box}
            viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
            className="w-full touch-none rounded-md border border-edge bg-card"
            onPointerDown={(e) => e.button === 0 && insert(at(e.clientX, e.clientY))}
          >
            <line
              x1={PAD}
              x2={WIDTH - PAD}
              y1={y(rest)}
              y2={y(rest)}
              stroke="var(--edge)"
              strokeDasharray="3 4"
            />
            <polyline points={line} fill="none" stroke={p.color} strokeWidth={2} strokeLinejoin="round" />
            {shown.map(([u, v], i) => (
              <circle
                key={i}
                role="slider"
                tabIndex={0}
                aria-label={`${p.label}, point ${i + 1}`}
                aria-valuenow={v}
                cx={x(u)}
                cy={y(v)}
                r={5}
                fill={i === chosen ? p.color : 'var(--card)'}
                stroke={p.color}
                strokeWidth={2}
                className="cursor-grab outline-none focus-visible:stroke-[3.5]"
                onFocus={() => setChosen(i)}
                onPointerDown={grab(i)}
                onKeyDown={keys(i)}
                onKeyUp={restGesture}
              />
            ))}
          </svg>
          {point && (
            <div className="mt-1 flex items-center gap-1.5 text-xs text-soft">
              at
              <NumberBox
                label={`${p.label}, place`}
                dimension="percent"
                step={0.01}
                value={point[0]}
                onChange={(v, k) => v !== null && put(Math.min(chosen, shown.length - 1), [v, point[1]], k)}
                className="w-[74px]"
              />
              is
              <NumberBox
                label={`${p.label}, value`}
                dimension={p.dimension}
                unit={p.unit}
                step={p.step}
                value={point[1]}
                onChange={(v, k) => v !== null && put(Math.min(chosen, shown.length - 1), [point[0], v], k)}
                className="min-w-0 flex-1"
              />
            </div>
          )}
        </>
      )}
    </div>
  );
}
