import { useEffect, type RefObject } from 'react';
import { useEngine } from '@/store/engine';
import { useSaved } from '@/store/keeping/autosave';
import { currentView, useView } from './viewState';

/** Whether nothing is waited for: results, meshes, the camera, saving. Pictures of props may still come. */
function useIdle(): boolean {
  const busy = useEngine((s) => s.busy || s.asked > 0);
  const loading = useView((s) => s.loading > 0);
  const moving = useView((s) => s.moving);
  const saving = useSaved((s) => s.state === 'saving');
  const begun = useView((s) => s.frames > 0);
  return begun && !busy && !loading && !moving && !saving;
}

/**
 * Marks the scene as settled for those who wait for it: once nothing is waited for any more and a frame of that has
 * been drawn, with what lies over it.
 */
export function SettledMark({ frame }: { frame: RefObject<HTMLDivElement | null> }) {
  const idle = useIdle();
  useEffect(() => {
    const mark = (settled: boolean) => {
      if (frame.current) frame.current.dataset.settled = String(settled);
    };
    mark(false);
    if (!idle) return undefined;
    const drawn = useView.getState().frames;
    let after = 0;
    const stop = useView.subscribe(({ frames }) => {
      if (frames === drawn || after) return;
      // What lies over the scene moves with the frame, one turn of the page later.
      after = requestAnimationFrame(() => mark(true));
    });
    currentView()?.invalidate();
    return () => {
      stop();
      cancelAnimationFrame(after);
    };
  }, [frame, idle]);
  return null;
}
