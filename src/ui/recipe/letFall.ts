import { setRelease } from '@/store/commands/release';
import { dispatch } from '@/store/document';
import { goToStep } from './goToStep';

/** Lets the props of an arrangement fall, and opens the step that says how. */
export function letFall(id: string): void {
  dispatch(setRelease, { id, values: { on: true } });
  // The step has to be there first.
  requestAnimationFrame(() => requestAnimationFrame(() => goToStep('Release')));
}
