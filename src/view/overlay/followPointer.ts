import type { PointerEvent } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { dragGesture } from '../dragGesture';
import type { ViewHandle } from '../handle';
import { viewNormal } from '../project';
import { useView } from '../viewState';

export const round = (v: number) => Number(v.toFixed(6));
export const plus = (a: Vec3, b: Vec3): Vec3 => [round(a[0] + b[0]), round(a[1] + b[1]), round(a[2] + b[2])];
export const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** Follows the pointer from a press to its release; Escape takes the drag back. */
export function followPointer(
  e: PointerEvent<Element>,
  key: string,
  onMove: (x: number, y: number, m: globalThis.PointerEvent) => void,
  onEnd?: () => void,
): void {
  e.preventDefault();
  e.stopPropagation();
  const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
  let moved = false;
  dragGesture(
    e,
    key,
    (m) => {
      if (!moved && Math.hypot(m.clientX - e.clientX, m.clientY - e.clientY) < 3) return;
      moved = true;
      onMove(m.clientX - box.left, m.clientY - box.top, m);
    },
    onEnd,
  );
}

/** The plane in which a dragged thing moves: the ground's, or the view's own (Alt, and seen from a side). */
export function dragPlane(view: ViewHandle, inView: boolean): Vec3 {
  const n = viewNormal(view.camera);
  const { mode } = useView.getState();
  return inView || mode === 'front' || mode === 'side' || Math.abs(n[1]) < 0.08 ? n : [0, 1, 0];
}
