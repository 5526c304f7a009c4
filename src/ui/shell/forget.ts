import { useAsked } from '@/store/asked';
import { rewind, useClock } from '@/store/clock';
import { database } from '@/store/keeping/database';
import { saveNow } from '@/store/keeping/keeper';
import { clearSelection } from '@/store/selection';
import { useSnap } from '@/view/snap/snapState';
import { useView, viewAnew } from '@/view/viewState';
import { useShownMaterial } from '../materials/shown';
import { useStills } from '../still/making';
import { setTheme, useUi } from '../uiState';

const CHOICES = [useUi, useClock, useSnap, useStills, useShownMaterial, useAsked];

function choicesAtFirst(): void {
  rewind();
  clearSelection();
  viewAnew();
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
