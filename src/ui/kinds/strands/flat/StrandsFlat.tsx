'use client';

import type { Strands } from '@/core/arrange/strands/schema';
import type { DrawnLines } from '@/core/arrange/drawnLines';
import { slotName } from '@/core/arrange/slotId';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { metres, plural } from '@/words/numbers';
import { useSize } from '../../../flat/useSize';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

/** Clear of the panel's edges, pixels. */
const MARGIN = 18;
/** More lines than this are not drawn beside each other: they would be hairs. */
const MOST = 400;

/** One line from the side: how far along it its places are, and how high. */
interface Side {
  slot: number;
  points: [number, number][];
  wide: number;
  /** How deep it hangs below the way between its ends. */
  deep: number;
}

/** The lines from the side, one behind the other, each in its own upright plane. */
export function StrandsFlat({ arrangement: a }: { arrangement: Strands }) {
  const [frame, size] = useSize();
  const units = useDocument((s) => s.scene.units);
  const lines = useEngine((s) => s.result.arrangements.get(a.id)?.lines);
  const hover = useSelection((s) => (s.hover?.arrangement === a.id ? s.hover.slot : null));
  const sides = lines ? sidesOf(lines) : [];
  const shown = sides.slice(0, MOST);
  const wide = shown.reduce((sum, s) => sum + s.wide, 0) || 1;
  const high = shown.flatMap((s) => s.points.map((p) => p[1]));
  const low = Math.min(...high);
  // A line that is taut and level still has its place.
  const top = Math.max(...high, low + wide / 40);
  const k = Math.min((size.width - 2 * MARGIN) / wide, (size.height - 2 * MARGIN) / (top - low));
  const left = (size.width - wide * k) / 2;
  const y = (h: number) => (size.height + (low + top) * k) / 2 - h * k;
  const color = THREAD_COLORS[a.thread];
  const lit = shown.find((s) => s.slot === hover) ?? shown[0];
  let from = left;
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Lines">
        <HeadWords
          words={
            lit
              ? `${plural(sides.length, 'line')} from the side${sides.length > MOST ? `, the first ${MOST} of them` : ''}. #${slotName(lit.slot)} is ${metres(lit.wide, units)} wide and hangs ${metres(lit.deep, units)} down.`
              : 'Between two places there will be a line.'
          }
        />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="strands">
        {size.width > 0 && k > 0 && (
          <svg className="absolute inset-0 size-full" role="img" aria-label="Lines from the side">
            {shown.map((s) => {
              const x0 = from;
              from += s.wide * k;
              const d = s.points.map(([x, h], i) => `${i ? 'L' : 'M'}${x0 + x * k} ${y(h)}`).join('');
              const [first, last] = [s.points[0], s.points.at(-1)!];
              const on = s.slot === hover;
              return (
                <g
                  key={s.slot}
                  onPointerEnter={() => setHover({ arrangement: a.id, slot: s.slot })}
                  onPointerLeave={() => setHover(null)}
                >
                  <path d={d} fill="none" stroke="transparent" strokeWidth={12} />
                  <path
                    d={`M${x0} ${y(first[1])}L${x0 + last[0] * k} ${y(last[1])}`}
                    stroke="var(--edge)"
                    strokeDasharray="3 4"
                  />
                  <path d={d} fill="none" stroke={color} strokeWidth={on ? 3.5 : 2} strokeLinecap="round" />
                  {[
                    [x0, first[1]],
                    [x0 + last[0] * k, last[1]],
                  ].map(([x, h], i) => (
                    <circle
                      key={i}
                      cx={x}
                      cy={y(h)}
                      r={3}
                      fill="var(--paper)"
                      stroke={color}
                      strokeWidth={1.6}
                    />
                  ))}
                </g>
              );
            })}
          </svg>
        )}
      </div>
    </div>
  );
}

function sidesOf({ slot, each, position: p }: DrawnLines): Side[] {
  return Array.from(slot, (id, line): Side => {
    const o = line * each * 3;
    const last = o + (each - 1) * 3;
    const way = [p[last] - p[o], p[last + 2] - p[o + 2]];
    const wide = Math.hypot(way[0], way[1]) || 1e-6;
    const points = Array.from({ length: each }, (_, i): [number, number] => {
      const at = o + i * 3;
      return [((p[at] - p[o]) * way[0] + (p[at + 2] - p[o + 2]) * way[1]) / wide, p[at + 1]];
    });
    const rise = (p[last + 1] - p[o + 1]) / wide;
    const deep = Math.max(0, ...points.map(([x, h]) => p[o + 1] + rise * x - h));
    return { slot: id, points, wide, deep };
  });
}
