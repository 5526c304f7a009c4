import { useEffect, type RefObject } from 'react';
import { nearestOnPath } from '@/core/curve/nearest';
import { compilePath } from '@/core/curve/compile';
import { pointAt } from '@/core/curve/sample';
import { dispatch, useDocument } from '@/store/document';
import { addPointAt } from '@/store/commands/paths';
import { engine } from '@/store/engine';
import { selectNode, selectPoint, selectSlots, setHover, useSelection } from '@/store/selection';
import { drawAhead, drawClick, drawDoubleClick } from './drawTool';
import { editedPath } from './edited';
import { pick } from './pick';
import { nearestOnScreen } from './project';
import { currentView, useView } from './viewState';

/** How close to a path, in pixels, the pointer is on it. */
const ON_PATH = 7;

/** The visible path under a pixel, if one is. */
export function pathUnder(x: number, y: number, within = ON_PATH): { id: string; s: number } | null {
  const view = currentView();
  if (!view) return null;
  let best: { id: string; s: number; pixels: number } | null = null;
  for (const path of useDocument.getState().scene.paths) {
    const result = engine().state.result.paths.get(path.id);
    if (!path.visible || !result?.ok) continue;
    const at = nearestOnScreen(view, result, x, y);
    if (at.pixels <= within && (!best || at.pixels < best.pixels)) best = { id: path.id, ...at };
  }
  return best;
}

function insertOn(id: string, s: number): void {
  const path = useDocument.getState().scene.paths.find((p) => p.id === id);
  const compiled = path && compilePath(path);
  if (!compiled?.ok) return;
  const at = nearestOnPath(compiled.path, pointAt(compiled.path, s));
  const made = dispatch(addPointAt, { path: id, s: at.s, segment: at.segment, t: at.t });
  if (made) selectPoint(id, made);
}

/** The pointer in the scene: hover and click for picking, and the drawing tool's steps. */
export function usePointer(frame: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    let down: { x: number; y: number; dragged: boolean } | null = null;
    let latest: { x: number; y: number } | null = null;
    let asked = 0;
    let lit: ReturnType<typeof useSelection.getState>['hover'] = null;
    const place = (e: PointerEvent | MouseEvent) => {
      const box = element.getBoundingClientRect();
      return { x: e.clientX - box.left, y: e.clientY - box.top };
    };
    /** Whether the event is on the drawing itself, not on a handle or panel over it. */
    const onScene = (e: Event) => (e.target as HTMLElement).tagName === 'CANVAS';

    const look = () => {
      asked = 0;
      const view = currentView();
      if (!view || !latest) return;
      const { x, y } = latest;
      if (useView.getState().tool === 'draw') return drawAhead(view, x, y, shift);
      const hit = pick(view, x, y);
      setHover(hit?.kind === 'prop' ? { arrangement: hit.arrangement, slot: hit.slot } : null);
      lit = useSelection.getState().hover;
      const edited = editedPath();
      const over = hit?.kind === 'prop' ? null : pathUnder(x, y);
      const canvas = element.querySelector('canvas');
      if (canvas)
        canvas.style.cursor =
          hit?.kind === 'prop' ? 'pointer' : over ? (over.id === edited?.id ? 'copy' : 'pointer') : '';
    };
    let shift = false;
    const move = (e: PointerEvent) => {
      shift = e.shiftKey;
      latest = place(e);
      if (down && Math.hypot(latest.x - down.x, latest.y - down.y) > 4) down.dragged = true;
      if (down?.dragged || !onScene(e)) return;
      asked ||= requestAnimationFrame(look);
    };
    const press = (e: PointerEvent) => {
      if (e.button === 0 && onScene(e)) down = { ...place(e), dragged: false };
    };
    const release = (e: PointerEvent) => {
      const clicked = down && !down.dragged && e.button === 0;
      down = null;
      const view = currentView();
      if (!clicked || !view) return;
      const { x, y } = place(e);
      if (useView.getState().tool === 'draw') return drawClick(view, x, y, e.shiftKey);
      clickScene(x, y, e.shiftKey);
    };
    const clickScene = (x: number, y: number, add: boolean) => {
      const view = currentView();
      const hit = view && pick(view, x, y);
      if (hit?.kind === 'prop') {
        const now = useSelection.getState().slots;
        const joins = add && now?.arrangement === hit.arrangement;
        const ids = joins ? [...now.ids.filter((id) => id !== hit.slot), hit.slot] : [hit.slot];
        return selectSlots(hit.arrangement, ids);
      }
      const over = pathUnder(x, y);
      if (over) return over.id === editedPath()?.id ? insertOn(over.id, over.s) : selectNode('path', over.id);
      useSelection.setState({ points: null, slots: null });
      return undefined;
    };
    const leave = () => {
      latest = null;
      // What the pointer goes to may have lit up already; only the scene's own light is put out.
      if (useSelection.getState().hover === lit) setHover(null);
      if (useView.getState().tool === 'draw')
        useView.setState((s) => ({ drawing: { ...s.drawing, ahead: null } }));
    };
    const twice = (e: MouseEvent) => {
      if (onScene(e) && useView.getState().tool === 'draw') drawDoubleClick();
    };
    const noMenu = (e: Event) => onScene(e) && e.preventDefault();
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerdown', press);
    element.addEventListener('pointerup', release);
    element.addEventListener('pointerleave', leave);
    element.addEventListener('dblclick', twice);
    element.addEventListener('contextmenu', noMenu);
    return () => {
      cancelAnimationFrame(asked);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', press);
      element.removeEventListener('pointerup', release);
      element.removeEventListener('pointerleave', leave);
      element.removeEventListener('dblclick', twice);
      element.removeEventListener('contextmenu', noMenu);
    };
  }, [frame]);
}
