'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Run } from '@/core/arrange/run/schema';
import { slotName } from '@/core/arrange/slotId';
import type { Profile } from '@/core/arrange/steps/groundProfile';
import { GAP_REASONS, type PartRange } from '@/core/arrange/result';
import type { ServedArrangement } from '@/engine/served';
import { engine, useEngine } from '@/store/engine';
import { useClock } from '@/store/clock';
import { joinSlot, selectSlots, setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { metres } from '@/words/numbers';
import { rulerStep, type FlatScale } from './scale';

const TOP = 10;
const BOTTOM = 26;
/** Above this many props only those in view are drawn. */
const MOST = 800;

/** The run from the side, over the length of its path: path, ground and props, heights as they are. */
export function Heights(p: {
  run: Run;
  result: ServedArrangement;
  part: PartRange;
  rows: number[];
  scale: FlatScale;
  width: number;
  height: number;
  unit: 'm' | 'cm';
}) {
  const { run, result, part, scale, unit } = p;
  const profile = useProfile(run.id, part);
  const hover = useSelection((s) => (s.hover?.arrangement === run.id ? s.hover.slot : null));
  const bounds = useEngine((s) => s.result.propBounds);
  const { placements: rows } = result;
  const props = useMemo(
    () =>
      p.rows
        .filter((i) => rows.s[i] >= scale.from && rows.s[i] <= scale.to)
        .slice(0, MOST)
        .map((i) => {
          const b = bounds[rows.props[rows.prop[i]]];
          const y = rows.position[i * 3 + 1];
          const size = rows.scale[i * 3 + 1];
          return {
            i,
            y,
            low: b ? y + b.min[1] * size : y,
            high: b ? y + b.max[1] * size : y + 0.3,
            half: b ? (Math.max(b.max[2] - b.min[2], 0.02) * rows.scale[i * 3 + 2]) / 2 : 0.1,
          };
        }),
    [p.rows, rows, bounds, scale],
  );
  if (!profile) return <p className="px-4 text-sm text-soft">Working out the profile…</p>;
  const seen = (k: number) => profile.s[k] >= scale.from && profile.s[k] <= scale.to;
  const heights = [
    ...[...profile.s.keys()].filter(seen).flatMap((k) => [profile.path[k], profile.ground[k]]),
    ...props.flatMap((x) => [x.low, x.high]),
  ].filter(Number.isFinite);
  const low = heights.length ? Math.min(...heights) : 0;
  const high = heights.length ? Math.max(...heights) : 1;
  // As long as it is high, where there is room: then slopes look as steep as they are.
  const perMetre = Math.min(
    (p.height - TOP - BOTTOM) / Math.max(0.2, high - low),
    (scale.x(scale.to) - scale.x(scale.from)) / Math.max(1e-9, scale.to - scale.from),
  );
  // What does not fill the height stands in its middle.
  const under = (p.height - TOP - BOTTOM - (high - low) * perMetre) / 2;
  const y = (h: number) => p.height - BOTTOM - under - (h - low) * perMetre;
  const line = (values: Float64Array) => {
    let open = false;
    return [...profile.s]
      .map((s, k) => {
        if (!Number.isFinite(values[k])) return ((open = false), '');
        const command = open ? 'L' : 'M';
        open = true;
        return `${command}${scale.x(s).toFixed(1)} ${y(values[k]).toFixed(1)}`;
      })
      .join('');
  };
  const step = rulerStep(scale);
  const marks: number[] = [];
  for (let s = Math.ceil(scale.from / step) * step; s <= scale.to + 1e-9; s += step) marks.push(s);
  const missed = p.rows.filter((i) => GAP_REASONS[rows.state[i]] === 'missed').length;
  return (
    <svg
      width={p.width}
      height={p.height}
      className="absolute inset-0 block"
      role="img"
      aria-label={`Heights from ${metres(low, unit, 2)} to ${metres(high, unit, 2)}`}
      data-testid="heights"
      data-low={low}
      data-high={high}
    >
      <path d={line(profile.ground)} fill="none" stroke="var(--color-linen-400)" strokeWidth={3} />
      <path
        d={line(profile.path)}
        fill="none"
        stroke={THREAD_COLORS[run.thread]}
        strokeWidth={1.4}
        strokeDasharray={run.ground.mode === 'none' ? undefined : '4 3'}
      />
      {props.map(({ i, low: from, high: to, half }) => {
        const placed = rows.state[i] === 0;
        const slot = rows.slot[i];
        const x = scale.x(rows.s[i]);
        const lit = hover === slot;
        const title = `#${slotName(slot)} · foot at ${metres(rows.position[i * 3 + 1], unit, 3)}`;
        if (!placed)
          return (
            <circle
              key={slot}
              cx={x}
              cy={y(from)}
              r={4}
              fill="var(--paper)"
              stroke="var(--soft)"
              strokeDasharray="2 2"
            >
              <title>{`${title} · ${GAP_REASONS[rows.state[i]]}`}</title>
            </circle>
          );
        return (
          <rect
            key={slot}
            data-height={rows.position[i * 3 + 1]}
            x={x - Math.max(1, half * perMetre)}
            y={y(to)}
            width={Math.max(2, half * 2 * perMetre)}
            height={Math.max(2, (to - from) * perMetre)}
            rx={1.5}
            fill={lit ? 'var(--text)' : THREAD_COLORS[run.thread]}
            fillOpacity={lit ? 1 : 0.55}
            className="cursor-pointer"
            onPointerEnter={() => setHover({ arrangement: run.id, slot })}
            onPointerLeave={() => setHover(null)}
            onClick={(e) => (e.shiftKey ? joinSlot(run.id, slot) : selectSlots(run.id, [slot]))}
          >
            <title>{title}</title>
          </rect>
        );
      })}
      {marks.map((s) => (
        <text
          key={s}
          x={scale.x(s)}
          y={p.height - 8}
          textAnchor="middle"
          fontSize={11}
          fill="var(--soft)"
          className="num"
        >
          {Number(s.toFixed(6))}
        </text>
      ))}
      <text x={6} y={Math.min(y(high) + 4, y(low) - 10)} fontSize={11} fill="var(--soft)" className="num">
        {metres(high, unit, 2)}
      </text>
      <text x={6} y={y(low) + 4} fontSize={11} fill="var(--soft)" className="num">
        {metres(low, unit, 2)}
      </text>
      {missed > 0 && (
        <text x={p.width - 8} y={TOP + 8} textAnchor="end" fontSize={12} fill="var(--color-caution)">
          {`${missed} without ground`}
        </text>
      )}
    </svg>
  );
}

/** The profile of the run's path, asked for again when anything of it may have changed. */
function useProfile(run: string, part: PartRange): Profile | null {
  const scene = useEngine((s) => s.scene);
  const key = useEngine((s) => s.result.arrangements.get(run)?.key);
  const time = useClock((s) => s.time);
  const [profile, setProfile] = useState<Profile | null>(null);
  const { path, stroke } = part;
  useEffect(() => {
    let current = true;
    if (scene)
      void engine()
        .profile(run, path, stroke)
        .then((found) => current && setProfile(found));
    return () => void (current = false);
    // The key stands for the scene as far as this run goes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [run, path, stroke, key, time]);
  return profile;
}
