import { useEffect, type RefObject } from 'react';
import { currentView } from '@/view/handle';
import { drawAhead, drawClick, enoughDrawn, finishDrawing } from './drawTool';
import { askClick } from './askTool';
import { holdClick } from './holdTool';
import { paintDab } from './masks/brushStroke';
import { facesClick } from './masks/facesTool';
import { measureAhead, measureClick } from './measure/measureTool';
import { paintAhead } from './masks/paintTool';
import { pegAhead, pegClick } from './pegTool';
import { clickScene, hoverScene } from './scenePick';
import { snapPointClick } from './snapPointTool';
import { useView } from './viewState';

/**
 * The pointer's work by keys, while the scene has the focus: arrows move a cursor over the view (with Shift by a pixel),
 * Enter does there what a click does. Where it has just put a point, Enter ends the path.
 */

/** Pixels. */
const STEP = 12;
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function look(x: number, y: number, free: boolean): void {
  const view = currentView();
  if (!view) return;
  const { tool } = useView.getState();
  if (tool === 'draw') return drawAhead(view, x, y, { straight: false, free });
  if (tool === 'peg') return pegAhead(view, x, y, free);
  if (tool === 'paint') return paintAhead(view, x, y);
  if (tool === 'measure') return measureAhead(view, x, y, false);
  hoverScene(view, x, y);
}

function click(x: number, y: number, free: boolean, stayed: boolean): void {
  const view = currentView();
  if (!view) return;
  const { tool } = useView.getState();
  if (tool === 'draw' && stayed && enoughDrawn()) finishDrawing(false);
  else if (tool === 'draw') drawClick(view, x, y, { straight: false, free });
  else if (tool === 'peg') pegClick(view, x, y, free);
  else if (tool === 'paint') paintDab(view, x, y, stayed);
  else if (tool === 'ask') askClick(view, x, y);
  else if (tool === 'hold') holdClick(view, x, y);
  else if (tool === 'snap-point') snapPointClick(view, x, y, free);
  else if (tool === 'measure') measureClick(view, x, y, free);
  else if (tool === 'faces') void facesClick(view, x, y, free);
  else clickScene(x, y, false);
}

export function useKeyCursor(frame: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    /** Whether it has not moved since it was clicked last. */
    let stayed = false;
    const key = (e: KeyboardEvent) => {
      if (e.target !== element || e.altKey) return;
      const { width, height } = element.getBoundingClientRect();
      const at = useView.getState().keyCursor ?? { x: Math.round(width / 2), y: Math.round(height / 2) };
      const free = e.ctrlKey || e.metaKey;
      const way = ARROWS[e.key];
      if (way) {
        const step = e.shiftKey ? 1 : STEP;
        const held = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
        const to = { x: held(at.x + way[0] * step, width), y: held(at.y + way[1] * step, height) };
        stayed = false;
        useView.setState({ keyCursor: to });
        look(to.x, to.y, free);
      } else if (e.key === 'Enter' && useView.getState().keyCursor) {
        click(at.x, at.y, free, stayed);
        stayed = true;
      } else return;
      e.preventDefault();
      e.stopPropagation();
    };
    const gone = () => useView.getState().keyCursor && useView.setState({ keyCursor: null });
    element.addEventListener('keydown', key);
    element.addEventListener('blur', gone);
    element.addEventListener('pointermove', gone);
    return () => {
      element.removeEventListener('keydown', key);
      element.removeEventListener('blur', gone);
      element.removeEventListener('pointermove', gone);
    };
  }, [frame]);
}
