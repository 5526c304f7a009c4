import { useCallback, useId, useRef, type PointerEvent } from 'react';
import { cancelGesture, endGesture } from '@/store/document';

/**
 * Dragging a label to change a number: `onMove` gets the pixels to the right since the drag began; Shift is fine.
 * Escape takes the drag back.
 */
export function useScrub(onStart: () => void, onMove: (pixels: number, key: string) => void) {
  const key = useId();
  const from = useRef<{ x: number; last: number; sum: number } | null>(null);
  const onPointerDown = useCallback(
    (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return;
      const target = e.currentTarget;
      from.current = { x: e.clientX, last: e.clientX, sum: 0 };
      endGesture();
      onStart();
      target.setPointerCapture(e.pointerId);
      const move = (m: globalThis.PointerEvent) => {
        if (!from.current) return;
        from.current.sum += (m.clientX - from.current.last) * (m.shiftKey ? 0.1 : 1);
        from.current.last = m.clientX;
        if (Math.abs(m.clientX - from.current.x) > 2 || from.current.sum !== 0) onMove(from.current.sum, key);
      };
      const stop = () => {
        from.current = null;
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
    },
    [key, onStart, onMove],
  );
  return { onPointerDown, key };
}
