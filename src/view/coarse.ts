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
export const TURNED_DPR = SOFTWARE ? 0.35 : 0.75;
export const DRAGGED_DPR = 0.45;

/** No faint lines. Shadows stay: without them every material would be compiled a second time. */
export function drawCoarser(root: Object3D, coarser: boolean): void {
  if (!SOFTWARE) return;
  root.traverse((o) => {
    if (o.userData.faint) o.visible = !coarser;
  });
}

/** Has shadows drawn anew with the next frame; while something is dragged they stay as they were. */
export function shadowsAnew(gl: WebGLRenderer): void {
  if (!useView.getState().coarse) gl.shadowMap.needsUpdate = true;
}

/**
 * Follows what the pointer drags of the scene: without a graphics card the picture is coarser from its second change on
 * until it is let go.
 * @param draw draws coarser, or in full again @returns stops following
 */
export function followDrags(draw: (coarser: boolean) => void): () => void {
  if (!SOFTWARE || UNDRAWN) return () => {};
  // What keys change rests between two of them, and is to be seen as it is.
  let held = false;
  const stop = new AbortController();
  const look = () => {
    const coarse = held && useGesture.getState().goesOn;
    if (coarse === useView.getState().coarse) return;
    useView.setState({ coarse });
    draw(coarse);
  };
  for (const event of ['pointerdown', 'pointerup', 'pointercancel'])
    window.addEventListener(
      event,
      () => {
        held = event === 'pointerdown';
        look();
      },
      { capture: true, signal: stop.signal },
    );
  const unsubscribe = useGesture.subscribe(look);
  return () => {
    stop.abort();
    unsubscribe();
    useView.setState({ coarse: false });
  };
}
