'use client';

import type { PointerEvent } from 'react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { slotName } from '@/core/arrange/slotId';
import { quatRotate } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { INK, LINEN, THREAD_COLORS } from '../../../view/colors';
import { dragGesture } from '../../../view/dragGesture';
import { moveFrame } from './frameMove';
import { pickPlace } from '../../../view/pick';
import { toScreen } from '../../../view/project';
import { currentView } from '@/view/handle';
import { useView } from '../../../view/viewState';
import { Knob } from '../../../view/overlay/knobs';
import { screenLine } from '../../../view/overlay/lines';
import { useFrames } from '../../../view/overlay/useFrames';

/** The selected sheet in the scene: its border, its marked corner with both directions, and its frame's handles. */
export function SheetMarks({ arrangement: sheet }: { arrangement: Sheet }) {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const layout = useEngine((s) => s.result.arrangements.get(sheet.id)?.sheet);
  if (!view || !sheet.visible || !layout) return null;
  const color = THREAD_COLORS[sheet.thread];
  const { corner } = layout;
  const flat = sheet.over.kind === 'frame';
  const [origin, across, up] = [0, 3, 6].map((o) =>
    corner.length > 0 ? toScreen(view, [corner[o], corner[o + 1], corner[o + 2]]) : null,
  );
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Sheet">
      <path
        d={screenLine(view, layout.border)}
        fill="none"
        stroke={color}
        strokeWidth={1.6}
        strokeDasharray="6 4"
        opacity={0.9}
      />
      {origin?.ahead && across?.ahead && up?.ahead && (
        <g aria-hidden>
          <Way from={origin} to={across} color={color} letter={flat ? '' : layout.match.swap ? 'v' : 'u'} />
          <Way from={origin} to={up} color={color} letter={flat ? '' : layout.match.swap ? 'u' : 'v'} />
          <circle cx={origin.x} cy={origin.y} r={5} fill={color} stroke={LINEN} strokeWidth={1.5} />
        </g>
      )}
      <HoverRing sheet={sheet.id} />
      {tool === 'pick' && !readOnly && sheet.over.kind === 'frame' && <FrameHandles sheet={sheet} />}
    </svg>
  );
}

/** A ring round the prop that is hovered, also where it stands behind the surface: among many alike its light is not enough. */
function HoverRing({ sheet }: { sheet: string }) {
  const view = useFrames();
  const slot = useSelection((s) => (s.hover?.arrangement === sheet ? s.hover.slot : null));
  const p = useEngine((s) => s.result.arrangements.get(sheet)?.placements);
  const i = slot === null || !p ? -1 : p.slot.indexOf(slot);
  if (!view || !p || i < 0) return null;
  const at = toScreen(view, [p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
  if (!at.ahead) return null;
  return (
    <g role="img" aria-label={`#${slotName(slot!)} in the scene`} fill="none">
      <circle cx={at.x} cy={at.y} r={12} stroke={INK} strokeWidth={4} opacity={0.55} />
      <circle cx={at.x} cy={at.y} r={12} stroke={LINEN} strokeWidth={2} />
    </g>
  );
}

interface Spot {
  x: number;
  y: number;
}

/** A direction of the layout as it runs over the surface. */
function Way({ from, to, color, letter }: { from: Spot; to: Spot; color: string; letter: string }) {
  const l = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  // As long on the screen however far away it is.
  const [x, y] = [from.x + ((to.x - from.x) / l) * 30, from.y + ((to.y - from.y) / l) * 30];
  return (
    <>
      <line x1={from.x} y1={from.y} x2={x} y2={y} stroke={color} strokeWidth={2.5} />
      <circle cx={x} cy={y} r={letter ? 7.5 : 3.5} fill={color} />
      <text
        x={x}
        y={y + 3.4}
        textAnchor="middle"
        fontSize={10}
        fontWeight={700}
        fill={LINEN}
        className="select-none"
      >
        {letter}
      </text>
    </>
  );
}

const middleOf = (sheet: Sheet, border: Float64Array): Vec3 => {
  if (sheet.over.kind === 'frame' && border.length === 0) return sheet.over.position;
  const n = border.length / 3;
  const sum: Vec3 = [0, 0, 0];
  for (let i = 0; i < border.length; i++) sum[i % 3] += border[i] / n;
  return sum;
};

/** The middle of a flat frame, dragged over the surfaces, and a knob that turns it. */
function FrameHandles({ sheet }: { sheet: Sheet }) {
  const view = useFrames();
  const border = useEngine((s) => s.result.arrangements.get(sheet.id)?.sheet?.border);
  if (!view || sheet.over.kind !== 'frame' || !border) return null;
  const { over } = sheet;
  const at = toScreen(view, middleOf(sheet, border));
  if (!at.ahead) return null;
  const color = THREAD_COLORS[sheet.thread];
  const grab = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const key = `frame ${sheet.id}`;
    const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
    const front = quatRotate(over.rotation, [0, 0, 1]);
    dragGesture(e, key, (m) => {
      const now = currentView();
      const place = now && pickPlace(now, m.clientX - box.left, m.clientY - box.top);
      if (place) moveFrame(sheet.id, place, front, key);
    });
  };
  const turnDeg = over.pin?.turnDeg ?? 0;
  const turnTo = (deg: number, key: string) => {
    if (!over.pin) return;
    const pin = { ...over.pin, turnDeg: Number(deg.toFixed(2)) };
    dispatch(setArrangement, { id: sheet.id, values: { over: { ...over, pin } } }, key);
  };
  const start = { angle: 0, deg: turnDeg };
  return (
    <>
      <g
        role="button"
        aria-label="Middle of the sheet"
        className="pointer-events-auto cursor-move touch-none"
        onPointerDown={grab}
      >
        <title>Drag over the surface</title>
        <circle cx={at.x} cy={at.y} r={14} fill="transparent" />
        <circle cx={at.x} cy={at.y} r={8} fill={color} fillOpacity={0.8} stroke={LINEN} strokeWidth={1.6} />
        <path
          d={`M${at.x - 3.5} ${at.y}h7M${at.x} ${at.y - 3.5}v7`}
          stroke={LINEN}
          strokeWidth={1.5}
          strokeLinecap="round"
        />
      </g>
      {over.pin && (
        <Knob
          label="Turn of the sheet"
          title="Drag round the middle to turn"
          now={turnDeg}
          text={`${turnDeg}°`}
          centre={at}
          gesture={`turn ${sheet.id}`}
          onPress={() => {
            start.angle = NaN;
            start.deg = turnDeg;
          }}
          onDrag={(dx, dy, m) => {
            const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
            if (Number.isNaN(start.angle)) start.angle = angle;
            const by = m.shiftKey ? Math.round((angle - start.angle) / 15) * 15 : angle - start.angle;
            turnTo(start.deg - by, `turn ${sheet.id}`);
          }}
          onStep={(steps) => turnTo(turnDeg + steps * 5, `turn keys ${sheet.id}`)}
        >
          <circle cx={at.x + 46} cy={at.y} r={7} fill={LINEN} stroke={color} strokeWidth={2.5} />
        </Knob>
      )}
    </>
  );
}
