'use client';

import { memo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { slotName } from '@/core/arrange/slotId';
import { GAP_REASONS, type PartRange } from '@/core/arrange/result';
import type { Run } from '@/core/arrange/run/schema';
import type { Prop } from '@/core/mesh/propSchema';
import type { Scene } from '@/core/scene/schema';
import type { ServedArrangement } from '@/engine/served';
import { joinSlot, setHover, useSelection } from '@/store/selection';
import { restGesture } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { usePicture } from '../../../basket/usePicture';
import { REASON } from '@/words/findings';
import { metres } from '@/words/numbers';
import type { FlatScale } from './scale';

/** Above this many slots in sight each is only a stroke; zooming in brings the tags back. */
const MOST_TAGS = 400;
const DYES = [
  'var(--soft)',
  'var(--color-weld)',
  'var(--color-woad)',
  'var(--color-moss)',
  'var(--color-plum)',
  'var(--color-madder)',
];

interface TagsProps {
  run: Run;
  props: readonly Prop[];
  units: Scene['units'];
  result: ServedArrangement;
  part: PartRange;
  scale: FlatScale;
  /** Pixels between the line and the ruler. */
  room: number;
  /** Rows of the placements that are shown. */
  rows: number[];
  onToggle: (slot: number, removed: boolean) => void;
  onNudge: (slot: number, values: { along?: number; side?: number; lift?: number }, key: string) => void;
}

/** The sag of the line at x, pixels from the top. */
const lineY = (x: number, width: number) => 14 + 12 * (1 - (2 * (x / Math.max(1, width)) - 1) ** 2);

/** Every slot on the line: a tag with its prop's picture, or a ring where it is empty. */
export function Tags(props: TagsProps) {
  const { run, result, part, scale } = props;
  const { placements: p } = result;
  const hover = useSelection((s) => (s.hover?.arrangement === run.id ? s.hover.slot : null));
  const chosen = useSelection((s) => (s.slots?.arrangement === run.id ? s.slots.ids : null));
  const slack = (scale.to - scale.from) * 0.03;
  const rows = props.rows.filter((i) => p.s[i] >= scale.from - slack && p.s[i] <= scale.to + slack);
  const ends = [scale.x(Math.max(0, scale.from)), scale.x(Math.min(part.length, scale.to))];
  const line = (
    <path
      d={Array.from({ length: 41 }, (_, i) => {
        const x = ends[0] + ((ends[1] - ends[0]) * i) / 40;
        return `${i ? 'L' : 'M'}${x.toFixed(1)} ${lineY(x, scale.width).toFixed(1)}`;
      }).join('')}
      fill="none"
      stroke="var(--text)"
      strokeWidth={1.4}
    />
  );
  if (rows.length > MOST_TAGS) {
    return (
      <g>
        <Strokes {...props} rows={rows} />
        {line}
      </g>
    );
  }
  const apart =
    rows.length > 1
      ? Math.abs(scale.x(p.s[rows[rows.length - 1]]) - scale.x(p.s[rows[0]])) / (rows.length - 1)
      : 60;
  // Whole pixels: while a path is dragged the tags only move, and are not drawn anew.
  const width = Math.max(4, Math.min(34, Math.floor(apart * 0.78)));
  const shown = hover !== null ? rows.find((i) => p.slot[i] === hover) : undefined;
  return (
    <g role="group" aria-label="Slots">
      {line}
      {rows.map((i) => (
        <Tag
          key={p.slot[i]}
          {...props}
          row={i}
          x={scale.x(p.s[i])}
          y={lineY(scale.x(p.s[i]), scale.width)}
          width={width}
          lit={hover === p.slot[i] || (chosen?.includes(p.slot[i]) ?? false)}
          color={DYES[Math.max(0, p.prop[i]) % DYES.length]}
        />
      ))}
      {shown !== undefined && (
        <Label
          x={scale.x(p.s[shown])}
          y={lineY(scale.x(p.s[shown]), scale.width) + width * 1.35 + 16}
          max={scale.width}
          text={describe(shown, props)}
        />
      )}
    </g>
  );
}

/** "#13 · 21.62 m · removed by hand" */
function describe(row: number, { result, props, units }: TagsProps): string {
  const { placements: p } = result;
  const where = `#${slotName(p.slot[row])} · ${metres(p.s[row], units)}`;
  if (p.state[row] !== 0) return `${where} · ${REASON[GAP_REASONS[p.state[row]]]}`;
  return `${where} · ${props.find((x) => x.id === p.props[p.prop[row]])?.name ?? ''}`;
}

interface TagProps extends TagsProps {
  row: number;
  x: number;
  y: number;
  width: number;
  lit: boolean;
  color: string;
}

interface TagFaceProps {
  width: number;
  color: string;
  lit: boolean;
  picture: string | null | undefined;
  state: 'placed' | 'pause' | 'gap';
  corrected: boolean;
}

function Tag(given: TagProps) {
  const { run, props, result, scale, row, x, y, width, lit, color, onToggle, onNudge } = given;
  const { placements: p } = result;
  const prop = props.find((q) => q.id === p.props[p.prop[row]]);
  const picture = usePicture(width >= 16 ? prop : undefined);
  const placed = p.state[row] === 0;
  const slot = p.slot[row];
  const rest = GAP_REASONS[p.state[row]] === 'pause';
  const name = slotName(slot);
  const hand = run.hand[name];
  const dragged = useRef(false);
  const toggle = (e: { shiftKey: boolean }) => {
    // A drag ends with a click of its own.
    if (dragged.current) return void (dragged.current = false);
    if (e.shiftKey && !rest) return joinSlot(run.id, slot);
    if (!rest) onToggle(slot, placed);
  };
  const perPixel = (scale.to - scale.from) / Math.max(1, scale.x(scale.to) - scale.x(scale.from));
  const tidy = (v: number) => Number(v.toFixed(3));
  /** Along with the pointer, and with Shift to the side: towards the top is left. */
  const press = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || !placed || hand?.lock) return;
    dragged.current = false;
    const was = { along: hand?.along ?? 0, side: hand?.side ?? 0 };
    const key = `flat nudge ${run.id} ${name}`;
    dragGesture(e, key, (m) => {
      const [dx, dy] = [m.clientX - e.clientX, m.clientY - e.clientY];
      if (!dragged.current && Math.hypot(dx, dy) < 5) return;
      dragged.current = true;
      onNudge(
        slot,
        m.shiftKey ? { side: tidy(was.side + dy * perPixel) } : { along: tidy(was.along + dx * perPixel) },
        key,
      );
    });
  };
  const nudgeKeys = (e: KeyboardEvent): boolean => {
    if (!e.altKey || !placed) return false;
    const by: Record<string, { along?: number; lift?: number }> = {
      ArrowRight: { along: tidy((hand?.along ?? 0) + 0.05) },
      ArrowLeft: { along: tidy((hand?.along ?? 0) - 0.05) },
      ArrowUp: { lift: tidy((hand?.lift ?? 0) + 0.05) },
      ArrowDown: { lift: tidy((hand?.lift ?? 0) - 0.05) },
    };
    if (!by[e.key]) return false;
    e.preventDefault();
    onNudge(slot, by[e.key], `flat keys ${run.id} ${name}`);
    return true;
  };
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="button"
      tabIndex={0}
      aria-label={`Slot ${describe(row, given).slice(1)}`}
      aria-pressed={!placed}
      data-slot={slotName(slot)}
      data-state={GAP_REASONS[p.state[row]]}
      className="cursor-pointer touch-none outline-none [&:focus-visible>.face]:stroke-woad [&:focus-visible>.face]:stroke-2"
      onPointerEnter={() => setHover({ arrangement: run.id, slot })}
      onPointerLeave={() => setHover(null)}
      onFocus={() => setHover({ arrangement: run.id, slot })}
      onBlur={() => setHover(null)}
      onPointerDown={press}
      onClick={toggle}
      onKeyUp={restGesture}
      onKeyDown={(e) => {
        if (nudgeKeys(e)) return;
        if (e.key === 'Enter' || e.key === ' ' || e.key === 'Delete') {
          e.preventDefault();
          e.stopPropagation();
          toggle(e);
        }
        const way =
          e.key === 'ArrowRight'
            ? 'nextElementSibling'
            : e.key === 'ArrowLeft'
              ? 'previousElementSibling'
              : null;
        if (way) {
          e.preventDefault();
          (e.currentTarget[way] as SVGElement | null)?.focus?.();
        }
      }}
    >
      <TagFace
        width={width}
        color={color}
        lit={lit}
        picture={picture}
        state={placed ? 'placed' : rest ? 'pause' : 'gap'}
        corrected={hand !== undefined}
      />
    </g>
  );
}

/** What hangs there, about its place on the line: while a path is dragged only the places change. */
const TagFace = memo(function TagFace({ width, color, lit, picture, state, corrected }: TagFaceProps) {
  const height = width * 1.3;
  return (
    <>
      <rect x={-width / 2 - 1} y={-8} width={width + 2} height={height + 20} fill="transparent" />
      {state === 'placed' ? (
        <>
          <rect
            className="face"
            x={-width / 2}
            y={5}
            width={width}
            height={height}
            rx={3}
            fill={lit ? 'var(--text)' : 'var(--tag)'}
            stroke={lit ? 'var(--text)' : color}
            strokeWidth={1.4}
          />
          {width >= 16 && picture ? (
            <image
              href={picture}
              x={-width / 2 + 1}
              y={6 + (height - width) / 2}
              width={width - 2}
              height={width - 2}
              className="pointer-events-none"
            />
          ) : (
            <rect
              x={-width / 2 + 1}
              y={6}
              width={Math.max(1, width - 2)}
              height={height - 2}
              rx={2}
              fill={color}
              className="pointer-events-none"
            />
          )}
          {width >= 12 && (
            <rect
              x={-width / 2}
              y={3 + height}
              width={width}
              height={3}
              fill={color}
              className="pointer-events-none"
            />
          )}
          {corrected && (
            <circle cx={width / 2 - 2} cy={7} r={3} fill="var(--text)" className="pointer-events-none">
              <title>Corrected by hand</title>
            </circle>
          )}
          <rect x={-2} y={-5} width={4} height={13} rx={1} fill="#C9A36B" className="pointer-events-none" />
        </>
      ) : (
        <circle
          className="face"
          r={Math.min(5, width / 2 + 1)}
          fill="var(--paper)"
          stroke={lit ? 'var(--text)' : 'var(--soft)'}
          strokeWidth={1.5}
          strokeDasharray={state === 'pause' ? '2 2' : undefined}
        />
      )}
    </>
  );
});

function Label({ x, y, max, text }: { x: number; y: number; max: number; text: string }) {
  const width = text.length * 7.15 + 18;
  const left = Math.min(max - width - 6, Math.max(6, x - width / 2));
  return (
    <g className="pointer-events-none" transform={`translate(${left} ${y})`}>
      <rect width={width} height={20} rx={4} fill="#1E2A36" />
      <text x={width / 2} y={14} textAnchor="middle" fontSize={11.5} fill="#FBF8F1" className="num">
        {text}
      </text>
    </g>
  );
}

/** Very many slots: strokes by state, two paths in all. */
function Strokes({ result, scale, rows }: TagsProps) {
  const { placements: p } = result;
  const d = { placed: '', gap: '' };
  const last = { placed: -1, gap: -1 };
  for (const i of rows) {
    const kind = p.state[i] === 0 ? 'placed' : 'gap';
    const x = Math.round(scale.x(p.s[i]) * 2) / 2;
    if (x === last[kind]) continue;
    last[kind] = x;
    const y = lineY(x, scale.width);
    d[kind] += kind === 'placed' ? `M${x} ${(y + 2).toFixed(1)}v20` : `M${x} ${(y - 6).toFixed(1)}v6`;
  }
  return (
    <g aria-label={`${rows.length} slots, zoom in to see each`} role="img">
      <path d={d.placed} stroke="var(--color-ink-500)" strokeWidth={0.8} />
      <path d={d.gap} stroke="var(--color-madder)" strokeWidth={0.8} />
    </g>
  );
}
