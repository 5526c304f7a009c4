'use client';

import type { PointerEvent } from 'react';
import type { Run } from '@/core/arrange/run/schema';
import { samplePath } from '@/core/curve/sample';
import { slotName } from '@/core/arrange/slotId';
import { normalize, type Vec3 } from '@/core/math/vec3';
import type { HandCorrection } from '@/core/arrange/steps/schema';
import { nudgeSlot } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { THREAD_COLORS } from '../../../view/colors';
import { dragGesture } from '../../../view/dragGesture';
import { alongAxis, metresPerPixel, toScreen } from '../../../view/project';
import { curveOf } from '../../../view/snap/candidates';
import { currentView } from '@/view/handle';
import { useView } from '../../../view/viewState';
import { Arm } from '../../../view/overlay/knobs';
import { useFrames } from '../../../view/overlay/useFrames';

const ARM = 54;
const round = (v: number) => Number(v.toFixed(4));
type Nudge = Pick<HandCorrection, 'along' | 'side' | 'lift' | 'turnDeg'>;

/** The selected prop of a run: arms that nudge it along, to the side and up, and a ring that turns it. */
export function SlotHandles({ arrangement: run }: { arrangement: Run }) {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const slots = useSelection((s) => s.slots);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const paths = useEngine((s) => s.result.paths);
  if (!view || tool !== 'pick' || readOnly || slots?.ids.length !== 1 || slots.arrangement !== run.id)
    return null;
  // What is within a copy has its numbers in its panel.
  if (!result || slots.within) return null;
  const { placements: p, parts } = result;
  const slot = slots.ids[0];
  const row = p.slot.indexOf(slot);
  const part = parts.find((x) => row >= x.start && row < x.end);
  const stroke = part && paths.get(part.path)?.strokes[part.stroke];
  const hand = run.hand[slotName(slot)];
  if (row < 0 || !stroke || p.state[row] !== 0 || hand?.lock) return null;
  const foot: Vec3 = [p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]];
  const { tangent } = samplePath(curveOf(stroke), [(p.s[row] * stroke.length) / part.length]);
  const along = normalize([tangent[0], 0, tangent[2]], [1, 0, 0]);
  const side: Vec3 = [-along[2], 0, along[0]];
  const reach = metresPerPixel(view, foot) * ARM;
  const at = toScreen(view, foot);
  if (!at.ahead) return null;
  const arms: { field: 'along' | 'side' | 'lift'; name: string; axis: Vec3; dye: string }[] = [
    { field: 'along', name: 'Nudge along the path', axis: along, dye: THREAD_COLORS.madder },
    { field: 'side', name: 'Nudge to the side', axis: side, dye: THREAD_COLORS.woad },
    { field: 'lift', name: 'Nudge up or down', axis: [0, 1, 0], dye: THREAD_COLORS.moss },
  ];
  const set = (values: Nudge, key: string) => dispatch(nudgeSlot, { id: run.id, slot, values }, key);
  const origin = (e: PointerEvent<Element>) =>
    (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
  const grabArm = (field: 'along' | 'side' | 'lift', axis: Vec3) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const box = origin(e);
    const was = hand?.[field] ?? 0;
    const start = alongAxis(view, e.clientX - box.left, e.clientY - box.top, foot, axis) ?? 0;
    const key = `nudge ${field} ${slot}`;
    dragGesture(e, key, (m) => {
      const now = currentView();
      const to = now && alongAxis(now, m.clientX - box.left, m.clientY - box.top, foot, axis);
      if (to !== null) set({ [field]: round(was + to - start) }, key);
    });
  };
  const grabTurn = (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const box = origin(e);
    const was = hand?.turnDeg ?? 0;
    const angle = (x: number, y: number) =>
      (Math.atan2(x - box.left - at.x, -(y - box.top - at.y)) * 180) / Math.PI;
    const start = angle(e.clientX, e.clientY);
    const key = `nudge turn ${slot}`;
    dragGesture(e, key, (m) => {
      const deg = was - (angle(m.clientX, m.clientY) - start);
      const held = m.shiftKey ? Math.round(deg / 15) * 15 : Math.round(deg);
      set({ turnDeg: ((held + 540) % 360) - 180 }, key);
    });
  };
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="group"
      aria-label={`Nudges of #${slotName(slot)}`}
    >
      {arms.map(({ field, name, axis, dye }) => {
        const b = toScreen(
          view,
          foot.map((v, a) => v + axis[a] * reach),
        );
        if (!b.ahead || Math.hypot(b.x - at.x, b.y - at.y) < 12) return null;
        return (
          <Arm
            key={field}
            label={name}
            from={at}
            to={b}
            dye={dye}
            radius={7}
            onPress={grabArm(field, axis)}
          />
        );
      })}
      <g
        role="button"
        aria-label="Turn this prop"
        className="pointer-events-auto cursor-grab touch-none"
        onPointerDown={grabTurn}
      >
        <title>Turn (Shift: steps of 15°)</title>
        <circle cx={at.x} cy={at.y} r={ARM + 14} fill="none" stroke="transparent" strokeWidth={12} />
        <circle
          cx={at.x}
          cy={at.y}
          r={ARM + 14}
          fill="none"
          stroke={THREAD_COLORS.plum}
          strokeWidth={1.6}
          strokeDasharray="2 6"
          strokeLinecap="round"
        />
      </g>
    </svg>
  );
}
