import { useClock } from '@/store/clock';
import { database } from '@/store/keeping/database';
import { saveNow } from '@/store/keeping/keeper';
import { useSnap } from '@/view/snap/snapState';
import { useView } from '@/view/viewState';
import { useStills } from '../still/making';
import { setTheme, useUi } from '../uiState';
import { beginScene } from './beginScene';

const CHOICES = [useUi, useClock, useSnap, useStills];

function choicesAtFirst(): void {
  beginScene();
  for (const store of CHOICES) (store.setState as (state: object) => void)(store.getInitialState());
  const { plane, pointKind, stays, pegging, brush, thirds, develops } = useView.getInitialState();
  useView.setState({ plane, pointKind, stays, pegging, brush, thirds, develops });
  setTheme('day');
}

/**
 * Leaves the open scene and forgets every scene and every choice, so that the page is as on its first day without being
 * loaded anew: for tests that follow each other.
 * @param leave goes to the start page
 */
export async function forgetAll(leave: () => void): Promise<void> {
  choicesAtFirst();
  await saveNow();
  const db = await database();
  await Promise.all(db.tables.map((table) => table.clear()));
  leave();
  while (location.pathname !== '/' || document.querySelector('[aria-label="Scene"]'))
    await new Promise((done) => requestAnimationFrame(done));
  localStorage.clear();
  sessionStorage.clear();
}
