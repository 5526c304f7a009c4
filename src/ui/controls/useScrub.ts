import { useCallback, useId, type PointerEvent } from 'react';
import { dragGesture } from '@/view/dragGesture';

/**
 * Dragging a label to change a number: `onMove` gets the pixels to the right since the drag began; Shift is fine.
 * Escape takes the drag back.
 */
export function useScrub(onStart: () => void, onMove: (pixels: number, key: string) => void) {
  const key = useId();
  const onPointerDown = useCallback(
    (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return;
      let last = e.clientX;
      let sum = 0;
      onStart();
      dragGesture(e, key, (m) => {
        sum += (m.clientX - last) * (m.shiftKey ? 0.1 : 1);
        last = m.clientX;
        onMove(sum, key);
      });
    },
    [key, onStart, onMove],
  );
  return { onPointerDown, key };
}
