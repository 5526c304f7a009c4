import type { PointerEvent } from 'react';
import { dragGesture } from '@/view/dragGesture';

/** Follows a horizontal drag; `onMove` gets the pixels since the press. Escape takes it back. */
export function dragSvg(e: PointerEvent<Element>, key: string, onMove: (pixels: number) => void): void {
  if (e.button !== 0) return;
  e.preventDefault();
  e.stopPropagation();
  (e.currentTarget as SVGElement).focus?.();
  dragGesture(e, key, (m) => onMove(m.clientX - e.clientX));
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
