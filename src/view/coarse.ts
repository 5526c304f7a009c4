import type { Object3D, WebGLRenderer } from 'three';
import { useGesture } from '@/store/document';
import { SOFTWARE } from './software';
import { UNDRAWN } from './undrawn';
import { useView } from './viewState';

/** What is drawn coarser while a hand turns the view, or drags something of the scene. */

/** Pixels across that are drawn for each of the page while nothing moves: as many as the screen has, up to two. */
export const fullDpr = (): number =>
  window.clothesline?.density ?? Math.min(2, Math.max(1, window.devicePixelRatio || 1));

/** Share of the pixels across that are drawn while the view turns, and while what it shows is judged. */
const TURNED = SOFTWARE ? 0.35 : 0.75;
const DRAGGED = 0.45;

/** Whether the view turns, or something of the scene is dragged that is drawn coarser for that. */
export const isCoarser = (): boolean => useView.getState().moving || useView.getState().coarse;

/** Pixels across that are drawn now for each of the page. */
export function dprNow(): number {
  const { moving, coarse } = useView.getState();
  return fullDpr() * (moving ? TURNED : coarse ? DRAGGED : 1);
}

/** No faint lines. Shadows stay: without them every material would be compiled a second time. */
export function drawCoarser(root: Object3D, coarser: boolean): void {
  if (!SOFTWARE) return;
  root.traverse((o) => {
    if (o.userData.faint) o.visible = !coarser;
  });
}

let begun = 0;
/** How often shadows were to be drawn anew. */
export const shadowsBegun = (): number => begun;

/** Has shadows drawn anew with the next frame; while something is dragged they stay as they were. */
export function shadowsAnew(gl: WebGLRenderer): void {
  if (useView.getState().coarse) return;
  gl.shadowMap.needsUpdate = true;
  begun++;
}

/**
 * Follows what the pointer drags of the scene: without a graphics card the picture is coarser until it is let go.
 * @param told called when that begins and ends @returns stops following
 */
export function followDrags(told: () => void): () => void {
  if (!SOFTWARE || UNDRAWN) return () => {};
  // What keys change rests between two of them, and is to be seen as it is.
  let held = false;
  // What a click changes is drawn in full at once.
  let drags = false;
  const stop = new AbortController();
  const look = () => {
    const coarse = drags && useGesture.getState().open;
    if (coarse === useView.getState().coarse) return;
    useView.setState({ coarse });
    told();
  };
  const on = (event: string, does: () => void) =>
    window.addEventListener(event, does, { capture: true, passive: true, signal: stop.signal });
  const hold = (down: boolean) => () => {
    held = down;
    drags = false;
    look();
  };
  on('pointerdown', hold(true));
  for (const end of ['pointerup', 'pointercancel']) on(end, hold(false));
  on('pointermove', () => {
    if (drags || !held) return;
    drags = true;
    look();
  });
  const unsubscribe = useGesture.subscribe(look);
  return () => {
    stop.abort();
    unsubscribe();
    useView.setState({ coarse: false });
  };
}
