'use client';

import { useMemo } from 'react';
import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { slotName } from '@/core/arrange/slotId';
import type { PartRange } from '@/core/arrange/result';
import type { ServedArrangement } from '@/engine/served';
import { selectSlots, setHover, useSelection } from '@/store/selection';
import { metres } from '@/words/numbers';

/** Above this many distances neighbours are put together, the least of each shown. */
const MOST_BARS = 300;

interface Distance {
  slot: number;
  s: number;
  /** Metres along the path to the next one placed. */
  d: number;
}

/** Distances along the path from each placed prop to the next, in their order. */
function distancesOf(result: ServedArrangement, rows: number[], part: PartRange): Distance[] {
  const { placements: p } = result;
  const placed = rows.filter((i) => p.state[i] === 0).sort((a, b) => p.s[a] - p.s[b]);
  const out: Distance[] = [];
  placed.forEach((i, k) => {
    const next = placed[k + 1];
    if (next !== undefined) out.push({ slot: p.slot[i], s: p.s[i], d: p.s[next] - p.s[i] });
    else if (part.closed && placed.length > 1)
      out.push({ slot: p.slot[i], s: p.s[i], d: part.length - p.s[i] + p.s[placed[0]] });
  });
  return out;
}

/** The distances as bars over the length of the path. */
export function SpacingChart({
  run,
  result,
  rows,
  part,
  unit,
  color,
}: {
  run: string;
  result: ServedArrangement;
  rows: number[];
  part: PartRange;
  unit: 'm' | 'cm';
  color: string;
}) {
  const hover = useSelection((s) => (s.hover?.arrangement === run ? s.hover.slot : null));
  const { shown, least, most, mean } = useMemo(() => {
    const all = distancesOf(result, rows, part);
    const each = Math.max(1, Math.ceil(all.length / MOST_BARS));
    const bars: Distance[] = [];
    for (let i = 0; i < all.length; i += each)
      bars.push(all.slice(i, i + each).reduce((a, b) => (b.d < a.d ? b : a)));
    const values = all.map((x) => x.d);
    return {
      shown: bars,
      least: values.length ? values.reduce((a, b) => Math.min(a, b)) : 0,
      most: values.length ? values.reduce((a, b) => Math.max(a, b)) : 0,
      mean: values.length ? values.reduce((a, b) => a + b, 0) / values.length : 0,
    };
  }, [result, rows, part]);
  if (shown.length === 0)
    return <p className="px-4 text-sm text-soft">With two props or more their distances stand here.</p>;
  return (
    <div
      className="flex h-full items-stretch gap-3 px-4 pb-2"
      data-testid="spacing-chart"
      data-least={least}
      data-most={most}
    >
      <div
        className="min-w-0 flex-1"
        role="img"
        aria-label={`Distances between neighbours: least ${metres(least, unit, 3)}, most ${metres(most, unit, 3)}`}
      >
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={shown}
            margin={{ top: 6, right: 6, bottom: 0, left: -14 }}
            barCategoryGap={shown.length > 80 ? 0 : 2}
          >
            <XAxis
              dataKey="s"
              tickFormatter={(s: number) => String(Number(s.toFixed(1)))}
              tick={{ fontSize: 11, fill: 'var(--soft)' }}
              stroke="var(--edge)"
              minTickGap={36}
            />
            <YAxis
              domain={[0, 'auto']}
              tick={{ fontSize: 11, fill: 'var(--soft)' }}
              stroke="var(--edge)"
              tickFormatter={(d: number) => String(Number(d.toFixed(2)))}
              width={52}
            />
            <ReferenceLine y={mean} stroke="var(--soft)" strokeDasharray="4 4" />
            <Tooltip
              cursor={{ fill: 'var(--groove)', opacity: 0.6 }}
              content={({ active, payload }) => {
                const x = payload?.[0]?.payload as Distance | undefined;
                if (!active || !x) return null;
                return (
                  <span className="num rounded bg-ink-900 px-2 py-1 text-xs text-linen-50">
                    #{slotName(x.slot)} · {metres(x.d, unit, 3)} to the next
                  </span>
                );
              }}
            />
            <Bar
              dataKey="d"
              isAnimationActive={false}
              onMouseEnter={(x) =>
                setHover({ arrangement: run, slot: (x as unknown as { payload: Distance }).payload.slot })
              }
              onMouseLeave={() => setHover(null)}
              onClick={(x) => selectSlots(run, [(x as unknown as { payload: Distance }).payload.slot])}
            >
              {shown.map((x) => (
                <Cell
                  key={x.slot}
                  fill={hover === x.slot ? 'var(--text)' : color}
                  fillOpacity={x.d === least ? 1 : 0.72}
                />
              ))}
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
      <dl className="w-32 shrink-0 self-center text-[12.5px]">
        {[
          ['Least', least],
          ['Mean', mean],
          ['Most', most],
        ].map(([name, v]) => (
          <div key={name} className="flex justify-between py-0.5">
            <dt className="text-soft">{name}</dt>
            <dd className="num">{metres(Number(v), unit, 3)}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
