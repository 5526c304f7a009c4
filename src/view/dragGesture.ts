import { cancelGesture, endGesture } from '@/store/document';

/**
 * Follows the pointer from a press to its release, as one step of the undo list. Escape takes the drag back.
 * @param key of the gesture: the changes that `onMove` makes must carry it
 */
export function dragGesture(
  press: { currentTarget: Element; pointerId: number },
  key: string,
  onMove: (m: PointerEvent) => void,
  onEnd?: () => void,
): void {
  const target = press.currentTarget;
  target.setPointerCapture(press.pointerId);
  endGesture();
  const move = (m: Event) => onMove(m as PointerEvent);
  const stop = () => {
    endGesture();
    onEnd?.();
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
