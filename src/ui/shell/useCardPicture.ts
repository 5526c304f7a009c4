import { useLayoutEffect } from 'react';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { setPicture } from '@/store/keeping/scenes';
import { currentView, onFrame } from '@/view/handle';
import { pictureOfView } from '@/view/pictures';
import { UNDRAWN } from '@/view/undrawn';
import { useView } from '@/view/viewState';

/** The view has been still for so long, milliseconds. */
const REST_MS = 1500;

/**
 * Keeps the picture of the open scene's card up to date: taken when the view has been at rest for a moment, when it has
 * developed, when the page is put away, and when the scene is left in whatever way.
 */
export function useCardPicture(): void {
  useLayoutEffect(() => {
    if (UNDRAWN) return undefined;
    const id = useDocument.getState().sceneId;
    if (!id) return undefined;
    let stale = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const take = () => {
      clearTimeout(timer);
      const { sceneId, readOnly } = useDocument.getState();
      if (!stale || sceneId !== id || readOnly) return;
      const picture = pictureOfView(currentView()?.gl.domElement);
      if (!picture) return;
      stale = false;
      setPicture(id, picture).catch(() => undefined);
    };
    const rested = () => {
      const { busy, asked } = engine().state;
      if (busy || asked > 0 || currentView()?.pending()) timer = setTimeout(rested, REST_MS);
      else take();
    };
    const stop = onFrame(() => {
      stale = true;
      clearTimeout(timer);
      timer = setTimeout(rested, REST_MS);
    });
    const ripened = useView.subscribe(({ developed }, before) => {
      if (!developed || before.developed) return;
      stale = true;
      take();
    });
    const away = () => document.visibilityState === 'hidden' && take();
    document.addEventListener('visibilitychange', away);
    return () => {
      stop();
      ripened();
      document.removeEventListener('visibilitychange', away);
      take();
    };
  }, []);
}
