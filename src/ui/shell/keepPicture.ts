import { useDocument } from '@/store/document';
import { saveNow } from '@/store/keeping/keeper';
import { setPicture } from '@/store/keeping/scenes';
import { pictureOfView } from '@/view/pictures';
import { currentView } from '@/view/handle';

/** Saves, and keeps a picture of the view for the start page. */
export async function keepPicture(): Promise<void> {
  const { sceneId, readOnly } = useDocument.getState();
  const picture = pictureOfView(currentView()?.gl.domElement);
  await saveNow();
  if (sceneId && picture && !readOnly) await setPicture(sceneId, picture).catch(() => undefined);
}
