'use client';

import type { KeyboardEvent, PointerEvent } from 'react';
import { itemSlot, type Sheet } from '@/core/arrange/sheet/schema';
import { slotName } from '@/core/arrange/slotId';
import { GAP_REASONS, STATE, type SheetLayout } from '@/core/arrange/result';
import type { Bounds } from '@/core/mesh/mesh';
import type { ServedArrangement } from '@/engine/served';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { nudgeSlot } from '@/store/commands/hand';
import { setItem } from '@/store/commands/sheets';
import { dispatch, restGesture } from '@/store/document';
import { selectSlots, setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { distortionColor } from '@/view/distortion';
import { dragGesture } from '@/view/dragGesture';
import { useView } from '@/view/viewState';
import { REASON } from '@/words/findings';
import type { Plan } from './plan';

/** Above this many places they are drawn as one, and only hovering tells them apart. */
export const MOST_CELLS = 1500;
/** A press that moves less than this is a click, pixels. */
const STILL = 3;

interface Props {
  sheet: Sheet;
  layout: SheetLayout;
  result: ServedArrangement;
  bounds: Record<string, Bounds>;
  plan: Plan;
  readOnly: boolean;
  names: Map<string, string>;
}

/** What of its prop a placement takes on the layout, pixels about its foot: x, y, width, height. */
function footOf({ result, bounds, plan, layout }: Props, i: number): [number, number, number, number] {
  const { placements: p } = result;
  const b = p.prop[i] >= 0 ? bounds[p.props[p.prop[i]]] : undefined;
  const { k } = plan;
  if (!b) {
    const side = Math.max(4, Math.min(layout.cell[i * 2] || 0.2, layout.cell[i * 2 + 1] || 0.2) * k * 0.5);
    return [-side / 2, -side / 2, side, side];
  }
  const [sx, sz] = [Math.abs(p.scale[i * 3]) * k, p.scale[i * 3 + 2] * k];
  return [-b.max[0] * sx, -b.max[2] * sz, (b.max[0] - b.min[0]) * sx, (b.max[2] - b.min[2]) * sz];
}

/** Every place of the layout: a tile in the sheet's dye, or a ring where it is empty. */
export function Cells(props: Props) {
  const { sheet, layout, result, plan } = props;
  const { placements: p } = result;
  const distortion = useView((s) => s.distortion);
  const color = THREAD_COLORS[sheet.thread];
  if (p.count > MOST_CELLS) {
    const d: string[] = [];
    for (let i = 0; i < p.count; i++) {
      if (p.state[i] !== STATE.placed) continue;
      const [x, y] = plan.at(layout.at[i * 2], layout.at[i * 2 + 1]);
      const [fx, fy, w, h] = footOf(props, i);
      d.push(
        `M${(x + fx).toFixed(1)} ${(y + fy).toFixed(1)}h${w.toFixed(1)}v${h.toFixed(1)}h${(-w).toFixed(1)}z`,
      );
    }
    return <path d={d.join('')} fill={color} fillOpacity={0.55} stroke="var(--paper)" strokeWidth={0.4} />;
  }
  // Cells of lines alone hold nothing that could be taken out.
  if (p.props.length === 0) return null;
  return Array.from({ length: p.count }, (_, i) => (
    <Cell
      key={p.slot[i]}
      {...props}
      i={i}
      distortion={distortion}
      fill={distortion ? distortionColor(layout.distortion[i * 2], layout.distortion[i * 2 + 1]) : color}
    />
  ));
}

function Cell(props: Props & { i: number; fill: string; distortion: boolean }) {
  const { sheet, layout, result, plan, i, fill, distortion, readOnly, names } = props;
  const { placements: p } = result;
  const slot = p.slot[i];
  const lit = useSelection(
    (s) =>
      (s.hover?.arrangement === sheet.id && s.hover.slot === slot) ||
      (s.slots?.arrangement === sheet.id && s.slots.ids.includes(slot)),
  );
  const item = sheet.items.find((x) => itemSlot(x.id) === slot);
  const [x, y] = plan.at(layout.at[i * 2], layout.at[i * 2 + 1]);
  const placed = p.state[i] === STATE.placed;
  const name = names.get(p.props[p.prop[i]] ?? '') ?? 'Pause';
  const [fx, fy, w, h] = footOf(props, i);
  const turn = sheet.facing.turnDeg + (item?.turnDeg ?? 0) + (sheet.hand[slotName(slot)]?.turnDeg ?? 0);
  const toggle = () =>
    dispatch(setSlotsRemoved, { id: sheet.id, slots: [slot], removed: item !== undefined || placed });
  const move = (dx: number, dy: number, from: { side: number; along: number }, key: string) => {
    const round = (v: number) => Number(v.toFixed(4));
    if (item)
      dispatch(
        setItem,
        { id: sheet.id, item: item.id, values: { at: [round(from.side + dx), round(from.along + dy)] } },
        key,
      );
    else
      dispatch(
        nudgeSlot,
        { id: sheet.id, slot, values: { side: round(from.side + dx), along: round(from.along + dy) } },
        key,
      );
  };
  const now = () => {
    const hand = sheet.hand[slotName(slot)];
    return item
      ? { side: item.at[0], along: item.at[1] }
      : { side: hand?.side ?? 0, along: hand?.along ?? 0 };
  };
  const press = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0 || readOnly) return;
    e.preventDefault();
    e.stopPropagation();
    (e.currentTarget as SVGElement).focus();
    const from = now();
    const key = `sheet ${slot}`;
    let moved = false;
    dragGesture(
      e,
      key,
      (m) => {
        const [dx, dy] = [m.clientX - e.clientX, m.clientY - e.clientY];
        if (!moved && Math.abs(dx) + Math.abs(dy) < STILL) return;
        moved = true;
        if (placed) move(dx / plan.k, -dy / plan.k, from, key);
      },
      () => {
        if (moved) return;
        if (item || e.shiftKey) selectSlots(sheet.id, [slot]);
        else toggle();
      },
    );
  };
  const keys = (e: KeyboardEvent) => {
    if (readOnly) return;
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowDown: [0, -1], ArrowUp: [0, 1] }[e.key];
    if (way) {
      const step = e.shiftKey ? 0.1 : 0.01;
      move(way[0] * step, way[1] * step, now(), `sheet keys ${slot}`);
    } else if (e.key === 'Enter' || e.key === ' ') {
      if (item) selectSlots(sheet.id, [slot]);
      else toggle();
    } else if (e.key === 'Delete' || e.key === 'Backspace') toggle();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const says = placed ? name : REASON[GAP_REASONS[p.state[i]]];
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`#${slotName(slot)} ${says}`}
      transform={`translate(${x.toFixed(2)} ${y.toFixed(2)}) rotate(${-turn})`}
      className="cursor-pointer touch-none outline-none focus-visible:[&>*]:stroke-2"
      onPointerDown={press}
      onPointerEnter={() => setHover({ arrangement: sheet.id, slot })}
      onPointerLeave={() => setHover(null)}
      onKeyDown={keys}
      onKeyUp={restGesture}
    >
      <title>{`#${slotName(slot)} ${says}`}</title>
      {placed ? (
        <rect
          x={fx}
          y={fy}
          width={Math.max(2, w)}
          height={Math.max(2, h)}
          rx={Math.min(4, w / 5)}
          fill={lit ? 'var(--text)' : fill}
          fillOpacity={lit ? 0.85 : distortion ? 1 : 0.62}
          stroke={item ? 'var(--text)' : distortion ? 'var(--faint)' : 'var(--paper)'}
          strokeWidth={item ? 1.2 : 0.8}
        />
      ) : (
        <circle
          r={Math.max(3, Math.min(w, h) / 3)}
          fill={lit ? 'var(--edge)' : 'transparent'}
          stroke="var(--soft)"
          strokeWidth={1.2}
          strokeDasharray="3 2"
        />
      )}
    </g>
  );
}
