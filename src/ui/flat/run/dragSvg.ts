import type { PointerEvent } from 'react';
import { cancelGesture, endGesture } from '@/store/document';

/** Follows a horizontal drag; `onMove` gets the pixels since the press. Escape takes it back. */
export function dragSvg(e: PointerEvent<Element>, key: string, onMove: (pixels: number) => void): void {
  if (e.button !== 0) return;
  e.preventDefault();
  e.stopPropagation();
  const target = e.currentTarget as SVGElement;
  target.setPointerCapture(e.pointerId);
  target.focus?.();
  endGesture();
  const move = (m: Event) => onMove((m as globalThis.PointerEvent).clientX - e.clientX);
  const stop = () => {
    endGesture();
    target.removeEventListener('pointermove', move);
    target.removeEventListener('pointerup', stop);
    target.removeEventListener('pointercancel', stop);
    removeEventListener('keydown', escape, true);
  };
  const escape = (k: KeyboardEvent) => {
    if (k.key !== 'Escape') return;
    k.stopPropagation();
    cancelGesture(key);
    stop();
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', stop);
  target.addEventListener('pointercancel', stop);
  addEventListener('keydown', escape, true);
}

/** Metres for an arrow key: a tenth, Shift a whole, Alt a hundredth. Zero for other keys. */
export function arrowMetres(e: { key: string; shiftKey: boolean; altKey: boolean }): number {
  const step = e.shiftKey ? 1 : e.altKey ? 0.01 : 0.1;
  return e.key === 'ArrowLeft' || e.key === 'ArrowDown'
    ? -step
    : e.key === 'ArrowRight' || e.key === 'ArrowUp'
      ? step
      : 0;
}
