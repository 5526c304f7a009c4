import { useEffect, useReducer } from 'react';
import { currentView, onFrame, type ViewHandle } from '@/view/handle';

/** The view, anew after every frame, so that what is drawn over the scene stays on it. */
export function useFrames(): ViewHandle | null {
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => onFrame(() => again()), []);
  return currentView();
}
