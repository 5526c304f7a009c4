import { useEffect, type RefObject } from 'react';
import { useEngine } from '@/store/engine';
import { useSaved } from '@/store/keeping/keeper';
import { currentView } from '@/view/handle';
import { useView } from './viewState';

/** Whether nothing is waited for: results, meshes, the camera, saving. Pictures of props may still come. */
function useIdle(): boolean {
  const busy = useEngine((s) => s.busy || s.asked > 0);
  const loading = useView((s) => s.loading > 0);
  const moving = useView((s) => s.moving);
  const saving = useSaved((s) => s.state === 'saving');
  const begun = useView((s) => s.frames > 0);
  return begun && !busy && !loading && !moving && !saving;
}

/** Turns of the page without a frame to come, after which none will: what changed has reached the view by then. */
const QUIET = 2;

/** Marks the scene as settled for those who wait for it: nothing is waited for, and the last frame of it is drawn. */
export function SettledMark({ frame }: { frame: RefObject<HTMLDivElement | null> }) {
  const idle = useIdle();
  useEffect(() => {
    const mark = (settled: boolean) => {
      if (frame.current) frame.current.dataset.settled = String(settled);
    };
    mark(false);
    if (!idle) return undefined;
    let quiet = 0;
    const look = () => {
      quiet = currentView()?.pending() ? 0 : quiet + 1;
      if (quiet < QUIET) next = requestAnimationFrame(look);
      else mark(true);
    };
    let next = requestAnimationFrame(look);
    return () => cancelAnimationFrame(next);
  }, [frame, idle]);
  return null;
}
