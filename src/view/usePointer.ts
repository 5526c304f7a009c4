import { useEffect, type RefObject } from 'react';
import { dispatch } from '@/store/document';
import { addFromMesh } from '@/store/commands/paths';
import { engine } from '@/store/engine';
import { selectNode, setHover, setOverPath, useSelection } from '@/store/selection';
import { drawAhead, drawClick, drawDoubleClick, type DrawKeys } from './drawTool';
import { takeBox } from './boxPick';
import { askClick } from './askTool';
import { holdClick } from './holdTool';
import { pegAhead, pegClick, PegSlide, pegWheel } from './pegTool';
import { pick } from './pick';
import { snapPointClick } from './snapPointTool';
import { StrokeCopy } from './strokeCopy';
import { clickScene, hoverScene, joinUnder, takeInHand, takesPoints } from './scenePick';
import { BrushStroke, type SlotsStroke } from './masks/brushStroke';
import { facesClick } from './masks/facesTool';
import { measureAhead, measureClick } from './measure/measureTool';
import { brushWheel, paintAhead } from './masks/paintTool';
import { chooseTool, setBrush, setDrawing, setPegging, useView } from './viewState';
import { currentView } from '@/view/handle';

/** Looks up the edge loop under the pointer; only the latest answer counts. */
let edgeAsked = 0;
async function lookForEdge(x: number, y: number): Promise<void> {
  const view = currentView();
  const hit = view && pick(view, x, y, 'surfaces');
  if (hit?.kind !== 'surface') return useView.setState({ edge: null });
  const turn = ++edgeAsked;
  const found = await engine().edgeLoop(hit.id, hit.point);
  if (turn === edgeAsked && useView.getState().tool === 'edge')
    useView.setState({ edge: found && { surface: hit.id, ...found } });
}

async function takeEdge(x: number, y: number): Promise<void> {
  await lookForEdge(x, y);
  const { edge } = useView.getState();
  if (!edge) return;
  const made = dispatch(addFromMesh, {
    surface: edge.surface,
    take: { what: 'loop', at: edge.at },
    name: 'Edge loop',
  });
  chooseTool('pick');
  if (made) selectNode('path', made);
}

const keysOf = (e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): DrawKeys => ({
  straight: e.shiftKey,
  free: e.ctrlKey || e.metaKey,
});

/** The pointer in the scene: hover and click for picking, a box, and the tools' steps. */
export function usePointer(frame: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    let down: { x: number; y: number; dragged: boolean; box: boolean } | null = null;
    let latest: { x: number; y: number } | null = null;
    let asked = 0;
    let slide: PegSlide | StrokeCopy | BrushStroke | SlotsStroke | null = null;
    let keys: DrawKeys = { straight: false, free: false };
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
      const { tool } = useView.getState();
      if (tool === 'draw') return drawAhead(view, x, y, keys);
      if (tool === 'edge') return void lookForEdge(x, y);
      if (tool === 'peg') return pegAhead(view, x, y, keys.free);
      if (tool === 'paint') return paintAhead(view, x, y);
      if (tool === 'measure') return measureAhead(view, x, y, keys.free);
      const { prop, path } = hoverScene(view, x, y);
      lit = useSelection.getState().hover;
      const canvas = element.querySelector('canvas');
      const inserts = path !== undefined && takesPoints(path);
      if (canvas) canvas.style.cursor = inserts ? 'copy' : prop || path !== undefined ? 'pointer' : '';
    };
    const move = (e: PointerEvent) => {
      // Where the drawing stands is asked only for what is on it: the page may have to be laid out for the answer.
      if (!down && !onScene(e)) return;
      keys = keysOf(e);
      latest = place(e);
      if (down && Math.hypot(latest.x - down.x, latest.y - down.y) > 4) down.dragged = true;
      if (slide && down?.dragged) {
        const view = currentView();
        if (view) slide.move(view, latest.x, latest.y, keys.free);
        return;
      }
      if (down?.box && down.dragged) useView.setState({ box: { ...down, x1: latest.x, y1: latest.y } });
      if (down?.dragged || !onScene(e)) return;
      asked ||= requestAnimationFrame(look);
    };
    let right: { x: number; y: number } | null = null;
    const press = (e: PointerEvent) => {
      right = e.button === 2 && onScene(e) ? place(e) : null;
      if (e.button !== 0 || !onScene(e)) return;
      // With Shift a box takes in what lies in it, instead of the view being turned.
      const box = e.shiftKey && useView.getState().tool === 'pick';
      down = { ...place(e), dragged: false, box };
      const { tool } = useView.getState();
      const view = currentView();
      if (!box && !e.shiftKey && view && (tool === 'pick' || tool === 'peg'))
        slide =
          e.altKey && tool === 'pick' ? StrokeCopy.at(down.x, down.y) : PegSlide.at(view, down.x, down.y);
      if (view && tool === 'paint') slide = BrushStroke.begin(view, down.x, down.y, e.shiftKey);
      if (slide) {
        // The view stays as it is while something is slid.
        e.stopPropagation();
        element.setPointerCapture(e.pointerId);
      }
      if (box) {
        e.stopPropagation();
        element.setPointerCapture(e.pointerId);
      }
    };
    const release = (e: PointerEvent) => {
      if (e.button === 2) return menuAt(e);
      const was = down;
      down = null;
      const slid = slide;
      slide = null;
      slid?.end();
      if (slid && was?.dragged) return undefined;
      const view = currentView();
      if (was?.box && was.dragged && view) {
        const to = place(e);
        useView.setState({ box: null });
        return takeBox(view, { x: was.x, y: was.y, x1: to.x, y1: to.y });
      }
      if (!was || was.dragged || e.button !== 0 || !view) return;
      const { x, y } = place(e);
      const { tool } = useView.getState();
      if (tool === 'draw') return drawClick(view, x, y, keysOf(e));
      if (tool === 'edge') return void takeEdge(x, y);
      if (tool === 'ask') return askClick(view, x, y);
      if (tool === 'hold') return holdClick(view, x, y);
      if (tool === 'faces') return void facesClick(view, x, y, e.shiftKey);
      if (tool === 'paint') return undefined;
      if (tool === 'snap-point') return snapPointClick(view, x, y, keysOf(e).free);
      if (tool === 'measure') return measureClick(view, x, y, keysOf(e).free);
      if (tool === 'peg' && !slid) return pegClick(view, x, y, keysOf(e).free);
      if (slid instanceof PegSlide) return undefined;
      // With Mod whole things are taken in hand beside each other, with Shift single props.
      if (e.ctrlKey || e.metaKey) return joinUnder(view, x, y);
      clickScene(x, y, e.shiftKey);
    };
    /** The right button turns the view where it is dragged; a click takes what is there in hand and asks for its menu. */
    const menuAt = (e: PointerEvent) => {
      const [from, to, view] = [right, place(e), currentView()];
      right = null;
      if (
        !from ||
        !view ||
        useView.getState().tool !== 'pick' ||
        Math.hypot(to.x - from.x, to.y - from.y) > 4
      )
        return;
      takeInHand(view, to.x, to.y);
      const { clientX, clientY } = e;
      element.dispatchEvent(
        new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX, clientY }),
      );
    };
    const leave = () => {
      latest = null;
      setOverPath(null);
      // What the pointer goes to may have lit up already; only the scene's own light is put out.
      if (useSelection.getState().hover === lit) setHover(null);
      const { tool } = useView.getState();
      if (tool === 'draw') setDrawing({ ahead: null, snap: null });
      if (tool === 'edge') useView.setState({ edge: null });
      if (tool === 'peg') setPegging({ ahead: null });
      if (tool === 'paint') setBrush({ ahead: null });
    };
    const wheel = (e: WheelEvent) => {
      const { tool, pegging, brush } = useView.getState();
      const ahead = tool === 'peg' ? pegging.ahead : tool === 'paint' ? brush.ahead : null;
      if (!ahead || e.ctrlKey || !onScene(e)) return;
      e.preventDefault();
      e.stopPropagation();
      if (tool === 'peg') pegWheel(e);
      else brushWheel(e);
    };
    const key = (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || (!slide && !down?.box)) return;
      e.stopPropagation();
      slide?.cancel();
      useView.setState({ box: null });
      slide = null;
      down = null;
    };
    const twice = (e: MouseEvent) => {
      if (onScene(e) && useView.getState().tool === 'draw') drawDoubleClick();
    };
    const noMenu = (e: Event) => onScene(e) && e.preventDefault();
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerdown', press, true);
    element.addEventListener('pointerup', release);
    element.addEventListener('pointerleave', leave);
    element.addEventListener('dblclick', twice);
    element.addEventListener('wheel', wheel, { capture: true, passive: false });
    window.addEventListener('keydown', key, true);
    element.addEventListener('contextmenu', noMenu);
    return () => {
      cancelAnimationFrame(asked);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', press, true);
      element.removeEventListener('pointerup', release);
      element.removeEventListener('pointerleave', leave);
      element.removeEventListener('dblclick', twice);
      element.removeEventListener('wheel', wheel, true);
      window.removeEventListener('keydown', key, true);
      element.removeEventListener('contextmenu', noMenu);
    };
  }, [frame]);
}
