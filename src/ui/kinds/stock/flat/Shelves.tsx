'use client';

import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { STATE, type Placements } from '@/core/arrange/result';
import type { StockLayout } from '@/core/arrange/result';
import type { Stock } from '@/core/arrange/stock/schema';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { setFacings } from '@/store/commands/stock';
import { dispatch, useDocument } from '@/store/document';
import { setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { plural } from '@/words/numbers';
import type { Look } from '../../../flat/look';
import { sharpCanvas } from '../../../flat/sharpCanvas';
import { useUi } from '../../../uiState';
import { drawShop } from './drawShop';
import { lastOfGroup, movedTo, rightOf, widened } from './moves';
import { boundaryAt, facingAt, nextUnit, shopOf, unitAt, type View } from './shop';

interface Props {
  stock: Stock;
  layout: StockLayout;
  placements: Placements;
  view: View;
  look: Look;
  setLook: (look: Look) => void;
  size: { width: number; height: number };
  /** The name of the facing in hand. */
  chosen: string | null;
  setChosen: (name: string | null) => void;
}

/** Pixels about the edge of a group that are its own, and how far a press is still a click. */
const REACH = 5;
const CLICK = 3;

/** The shelves themselves, drawn as one: a click takes one away or brings it back, a drag moves facings and edges. */
export function Shelves({
  stock,
  layout,
  placements: p,
  view,
  look,
  setLook,
  size,
  chosen,
  setChosen,
}: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { id } = stock;
  const readOnly = useDocument((s) => s.readOnly !== null);
  const props = useDocument((s) => s.scene.props);
  const theme = useUi((s) => s.theme);
  const hovered = useSelection((s) => (s.hover?.arrangement === id ? s.hover.slot : null));
  const slots = useSelection((s) => (s.slots?.arrangement === id ? s.slots.ids : null));
  const [goes, setGoes] = useState<{ x: number; y: number; tall: number } | null>(null);
  const [cursor, setCursor] = useState('pointer');
  const shop = useMemo(() => shopOf(layout, view, size, look), [layout, view, size, look]);
  const { facings } = layout;
  const ofRow = (row: number) => facings.findIndex((f) => row >= f.start && row < f.end);
  const over = hovered === null ? -1 : ofRow(p.slot.indexOf(hovered));
  const inHand = facings.findIndex((f) => f.name === chosen);
  useEffect(() => {
    const sharp = sharpCanvas(canvas.current, size);
    if (!sharp) return;
    const { paint, ink } = sharp;
    const dyes = Object.values(THREAD_COLORS);
    const first = dyes.indexOf(THREAD_COLORS[stock.thread]);
    drawShop(paint, {
      layout,
      shop,
      placements: p,
      colors: p.props.map((_, i) => dyes[(first + i) % dyes.length]),
      names: p.props.map((prop) => props.find((x) => x.id === prop)?.name ?? 'missing'),
      hovered: over,
      chosen: inHand,
      goes,
      slots: new Set(slots),
      inks: {
        text: ink('--text'),
        soft: ink('--soft'),
        edge: ink('--edge'),
        card: ink('--card'),
        groove: ink('--groove'),
      },
    });
  }, [layout, shop, p, over, inHand, goes, slots, size, stock.thread, props, theme]);
  const pixel = (e: { clientX: number; clientY: number }): [number, number] => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    return [e.clientX - left, e.clientY - top];
  };
  /** What stands in a facing, as the document says it by now: keys may come faster than results. */
  const propOf = (f: number): string | null => {
    const now = useDocument.getState().scene.arrangements.find((a) => a.id === id);
    const byHand = now && 'byFacing' in now ? now.byFacing[facings[f]?.name]?.prop : undefined;
    return byHand ?? p.props[facings[f]?.prop ?? -1] ?? null;
  };
  const toggle = (row: number) => {
    if (row >= 0 && p.prop[row] >= 0)
      dispatch(setSlotsRemoved, { id, slots: [p.slot[row]], removed: p.state[row] === STATE.placed });
  };
  /** Metres along a shelf at a pixel. */
  const along = (shelf: number, x: number) => (x - shop.shelves[shelf].x) / shop.k;
  const grab = (e: PointerEvent<HTMLCanvasElement>) => {
    if (e.button !== 0) return;
    const [x, y] = pixel(e);
    const edge = readOnly ? -1 : boundaryAt(layout, shop, x, y, REACH);
    if (edge >= 0) return dragEdge(e, edge);
    const facing = facingAt(layout, shop, x, y);
    if (facing < 0) {
      setChosen(null);
      if (look.zoom > 1)
        dragGesture(e, `pan ${id}`, (m) =>
          setLook({
            ...look,
            x: look.x - (m.clientX - e.clientX) / look.zoom,
            y: look.y - (m.clientY - e.clientY) / look.zoom,
          }),
        );
      return;
    }
    if (readOnly) return setChosen(facings[facing].name);
    dragFacing(e, facing, unitAt(layout, shop, p, facing, x, y));
  };
  /** As wide as it is when the drag begins: what it would be is told against that. */
  const dragEdge = (e: PointerEvent<HTMLCanvasElement>, left: number) => {
    const key = `widen ${id} ${facings[left].name}`;
    const { shelf } = facings[left];
    const before = stock.byFacing;
    const was = facings.map((_, f) => propOf(f));
    const held = (f: number) => was[f] ?? null;
    dragGesture(e, key, (m) => {
      const to = rightOf(facings, shelf, along(shelf, pixel(m)[0]));
      const now = widened(facings, held, left, to);
      const all = facings.filter((f) => f.shelf === shelf);
      // What an earlier place of this drag has changed is as it was.
      const back = Object.fromEntries(all.map((f) => [f.name, { prop: before[f.name]?.prop }]));
      dispatch(setFacings, { id, facings: { ...back, ...now }, title: 'widen a group' }, key);
    });
  };
  const dragFacing = (e: PointerEvent<HTMLCanvasElement>, facing: number, unit: number) => {
    let moved = false;
    let to = -1;
    const key = `move facing ${id}`;
    dragGesture(
      e,
      key,
      (m) => {
        moved ||= Math.hypot(m.clientX - e.clientX, m.clientY - e.clientY) > CLICK;
        if (!moved) return;
        const [x, y] = pixel(m);
        to = facingAt(layout, shop, x, y);
        if (to < 0 || to === facing) return setGoes(null);
        const f = facings[to];
        const s = shop.shelves[f.shelf];
        const right = f.shelf === facings[facing].shelf && to > facing;
        setGoes({ x: s.x + (right ? f.x1 : f.x0) * shop.k, y: s.y, tall: s.tall });
      },
      () => {
        setGoes(null);
        setChosen(facings[facing].name);
        if (!moved) toggle(unit);
        else if (to >= 0 && to !== facing) moveTo(facing, to);
      },
    );
  };
  const moveTo = (from: number, to: number) => {
    dispatch(setFacings, { id, facings: movedTo(facings, propOf, from, to), title: 'move a facing' });
    setChosen(facings[to].name);
  };
  /** Along the facings; Enter takes one away, Delete sells out, Alt moves, Shift widens the group. */
  const keys = (e: KeyboardEvent) => {
    const n = facings.length;
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
    const now = Math.max(0, inHand);
    if (n === 0) return;
    if (step && e.altKey && inHand >= 0 && !readOnly) {
      if (facings[now + step]) moveTo(now, now + step);
    } else if (step && e.shiftKey && inHand >= 0 && !readOnly) {
      const last = lastOfGroup(facings, propOf, now);
      const change =
        facings[last + 1]?.shelf === facings[now].shelf
          ? widened(facings, propOf, last, last + 1 + (step > 0 ? 1 : -1))
          : {};
      if (Object.keys(change).length > 0)
        dispatch(setFacings, { id, facings: change, title: 'widen a group' });
    } else if (step) {
      const next = facings[inHand < 0 ? 0 : (now + step + n) % n];
      setChosen(next.name);
      setHover({ arrangement: id, slot: p.slot[next.start] });
    } else if (e.key === 'Enter' && inHand >= 0 && !readOnly) toggle(nextUnit(layout, p, now, layout.box));
    else if (e.key === 'Delete' && inHand >= 0 && !readOnly)
      dispatch(setFacings, { id, facings: { [facings[now].name]: { sold: true } } });
    else if (e.key === 'Escape' && inHand >= 0) setChosen(null);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <canvas
      ref={canvas}
      role="application"
      tabIndex={0}
      aria-label={`${plural(facings.length, 'facing')} on ${plural(layout.shelves.length, 'board')}. Arrow keys go from one to the next, Enter takes one away, Delete sells a facing out, Alt with arrow keys moves it, Shift widens its group.`}
      className="absolute inset-0 size-full touch-none -outline-offset-2"
      style={{ cursor }}
      onPointerDown={grab}
      onPointerMove={(e) => {
        if (e.buttons > 0) return;
        const [x, y] = pixel(e);
        const facing = facingAt(layout, shop, x, y);
        setCursor(boundaryAt(layout, shop, x, y, REACH) >= 0 ? 'ew-resize' : 'pointer');
        const unit = facing < 0 ? -1 : unitAt(layout, shop, p, facing, x, y);
        const row = unit >= 0 ? unit : facing >= 0 ? facings[facing].start : -1;
        setHover(row < 0 ? null : { arrangement: id, slot: p.slot[row] });
      }}
      onPointerLeave={() => setHover(null)}
      onKeyDown={keys}
    />
  );
}
