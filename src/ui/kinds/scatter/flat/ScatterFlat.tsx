'use client';

import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { GAP_REASONS, STATE, type AreaFacts, type Placements } from '@/core/arrange/result';
import type { Scatter } from '@/core/arrange/scatter/schema';
import { slotName } from '@/core/arrange/slotId';
import type { MaskShades } from '@/core/mesh/mask/shades';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { nudgeSlot } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectSlots, setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { useShades } from '@/view/masks/shadesState';
import { REASON } from '@/words/findings';
import { plural } from '@/words/numbers';
import { Segmented } from '../../../controls/Segmented';
import { useSize } from '../../../flat/useSize';
import { WHOLE, zoomed, type Look } from '../../../flat/look';
import { sharpCanvas } from '../../../flat/sharpCanvas';
import { ZoomButtons } from '../../../flat/ZoomButtons';
import { useUi } from '../../../uiState';
import { drawPlan } from './drawPlan';
import { nudgeOf, planOf, rowAt, rowsIn, type Plan, type Side } from './plan';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

const SIDES = [
  { value: 'above', text: 'Above' },
  { value: 'front', text: 'Front' },
  { value: 'side', text: 'Side' },
] as const;
const NO_SHADES: readonly MaskShades[] = [];
/** Pixels about a place that are its own, and how far a press is still a click. */
const REACH = 10;
const CLICK = 3;

/** A scatter from above: a click empties a place or fills it again, a drag nudges, a box with Shift takes several. */
export function ScatterFlat({ arrangement: a }: { arrangement: Scatter }) {
  const [frame, size] = useSize();
  const [look, setLook] = useState<Look>(WHOLE);
  const [chosenSide, setSide] = useState<Side>('above');
  const p = useEngine((s) => s.result.arrangements.get(a.id)?.placements);
  const area = useEngine((s) => s.result.arrangements.get(a.id)?.area);
  const side = area?.dimensions === 3 ? chosenSide : 'above';
  const hovered = useSelection((s) => (s.hover?.arrangement === a.id ? s.hover.slot : null));
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { left, top, width, height } = element.getBoundingClientRect();
      const by = e.deltaY < 0 ? 1.15 : 1 / 1.15;
      setLook((was) => zoomed(was, by, e.clientX - left - width / 2, e.clientY - top - height / 2));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [frame]);
  const row = p && hovered !== null ? p.slot.indexOf(hovered) : -1;
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Plan">
        <HeadWords
          fills
          live
          words={
            p && row >= 0
              ? placeWords(p, row, a)
              : 'Click a place to empty or fill it; drag it to nudge; a box with Shift takes several.'
          }
        />
        {area?.dimensions === 3 && (
          <Segmented
            tight
            label="Seen from"
            hint="The side that the volume is seen from"
            value={side}
            options={SIDES}
            onChange={setSide}
          />
        )}
        <ZoomButtons what="the plan" look={look} onWhole={() => setLook(WHOLE)} />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="scatter-plan">
        {p && p.count > 0 && size.width > 0 && (
          <Places
            scatter={a}
            placements={p}
            plan={planOf(p, side, size, look)}
            distance={spaceOf(p, area)}
            nudges={side === 'above'}
            look={look}
            setLook={setLook}
            size={size}
          />
        )}
        {p?.count === 0 && (
          <p className="px-4 text-sm text-soft">
            {(area?.places ?? 0) > 0
              ? 'Its mask lets nothing stand here. Change the mask under Spread.'
              : 'There are no places yet. Choose what is filled under Area.'}
          </p>
        )}
      </div>
    </div>
  );
}

/** "#12 · Grass tuft", or why it is empty. */
function placeWords(p: Placements, row: number, { props }: Scatter): string {
  const what = p.state[row] === STATE.placed ? 'placed' : REASON[GAP_REASONS[p.state[row]]];
  return `#${slotName(p.slot[row])} · ${props.length === 0 ? 'no prop yet' : what}`;
}

/** Metres about each place in the mean, as dots are drawn. */
const spaceOf = ({ count }: Placements, area: AreaFacts | undefined): number =>
  !area ? 1 : area.dimensions === 3 ? area.distance : Math.min(area.distance, Math.sqrt(area.size / count));

interface PlacesProps {
  scatter: Scatter;
  placements: Placements;
  plan: Plan;
  distance: number;
  /** Whether a drag nudges: only from above it says where to. */
  nudges: boolean;
  look: Look;
  setLook: (look: Look) => void;
  size: { width: number; height: number };
}

/** The places themselves: drawn as one, met by the nearest. */
function Places({ scatter, placements: p, plan, distance, nudges, look, setLook, size }: PlacesProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { id } = scatter;
  const readOnly = useDocument((s) => s.readOnly !== null);
  const hand = useDocument((s) => s.scene.arrangements.find((x) => x.id === id));
  const paths = useEngine((s) => s.result.paths);
  const theme = useUi((s) => s.theme);
  const hovered = useSelection((s) => (s.hover?.arrangement === id ? s.hover.slot : null));
  const slots = useSelection((s) => (s.slots?.arrangement === id ? s.slots.ids : null));
  const [box, setBox] = useState<[number, number, number, number] | null>(null);
  const shown = useShades((s) => s.list);
  const shades = nudges ? shown : NO_SHADES;
  useEffect(() => {
    const sharp = sharpCanvas(canvas.current, size);
    if (!sharp) return;
    const { paint, ink } = sharp;
    drawPlan(paint, {
      shades,
      placements: p,
      plan,
      distance,
      waiting: scatter.props.length === 0,
      hovered,
      chosen: new Set(slots),
      box,
      lines: nudges ? [...paths.values()].flatMap((path) => path.strokes.map((s) => s.position)) : [],
      inks: {
        thread: THREAD_COLORS[scatter.thread],
        text: ink('--text'),
        edge: ink('--edge'),
        soft: ink('--faint'),
      },
    });
  }, [p, plan, distance, nudges, shades, hovered, slots, box, paths, size, scatter, theme]);
  const pixel = (e: { clientX: number; clientY: number }): [number, number] => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    return [e.clientX - left, e.clientY - top];
  };
  const toggle = (row: number) =>
    dispatch(setSlotsRemoved, { id, slots: [p.slot[row]], removed: p.state[row] === STATE.placed });
  const grab = (e: PointerEvent<HTMLCanvasElement>) => {
    if (e.button !== 0) return;
    const [x, y] = pixel(e);
    if (e.shiftKey) {
      dragGesture(
        e,
        `box ${id}`,
        (m) => setBox([x, y, ...pixel(m)]),
        () =>
          setBox((last) => {
            if (last)
              selectSlots(
                id,
                rowsIn(p, plan, last).map((row) => p.slot[row]),
              );
            return null;
          }),
      );
      return;
    }
    const row = rowAt(p, plan, x, y, REACH);
    if (row < 0 && look.zoom > 1) {
      dragGesture(e, `pan ${id}`, (m) =>
        setLook({
          ...look,
          x: look.x - (m.clientX - e.clientX) / look.zoom,
          y: look.y - (m.clientY - e.clientY) / look.zoom,
        }),
      );
      return;
    }
    if (row < 0 || readOnly) return;
    const slot = p.slot[row];
    const was = hand && 'hand' in hand ? hand.hand[slotName(slot)] : undefined;
    const key = `nudge ${id} ${slot}`;
    let moved = false;
    dragGesture(
      e,
      key,
      (m) => {
        const [dx, dy] = [m.clientX - e.clientX, m.clientY - e.clientY];
        moved ||= Math.hypot(dx, dy) > CLICK;
        if (!moved || !nudges || p.state[row] !== STATE.placed) return;
        const { along, side } = nudgeOf(dx, dy, plan.k);
        const values = { along: (was?.along ?? 0) + along, side: (was?.side ?? 0) + side };
        dispatch(nudgeSlot, { id, slot, values }, key);
      },
      () => {
        if (!moved) toggle(row);
      },
    );
  };
  /** Along the list of places; Enter does what a click does. */
  const keys = (e: KeyboardEvent) => {
    const now = hovered === null ? -1 : p.slot.indexOf(hovered);
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
    const by = { '+': 1.3, '-': 1 / 1.3 }[e.key];
    if (by) setLook(zoomed(look, by, 0, 0));
    else if (step) setHover({ arrangement: id, slot: p.slot[(now + step + p.count) % p.count] });
    else if ((e.key === 'Enter' || e.key === 'Delete') && now >= 0 && !readOnly) toggle(now);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <canvas
      ref={canvas}
      role="application"
      tabIndex={0}
      aria-label={`${plural(p.count, 'place')} from above. Arrow keys go from one to the next, Enter empties or fills, + and − zoom.`}
      className="absolute inset-0 size-full cursor-pointer touch-none -outline-offset-2"
      onPointerDown={grab}
      onPointerMove={(e) => {
        if (e.buttons > 0) return;
        const row = rowAt(p, plan, ...pixel(e), REACH);
        setHover(row < 0 ? null : { arrangement: id, slot: p.slot[row] });
      }}
      onPointerLeave={() => setHover(null)}
      onKeyDown={keys}
    />
  );
}
