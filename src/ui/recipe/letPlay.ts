import { setPoses } from '@/store/commands/poses';
import { dispatch } from '@/store/document';
import { goToStep } from './goToStep';

/** Lets the props of an arrangement play their animations, and opens the step that says how. */
export function letPlay(id: string): void {
  dispatch(setPoses, { id, values: { on: true } });
  requestAnimationFrame(() => requestAnimationFrame(() => goToStep('Poses')));
}
