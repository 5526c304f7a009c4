import type { Arrangement } from '@/core/arrange/registry';
import { STATE } from '@/core/arrange/result';
import { takeAsItLies } from '@/store/commands/release';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { placesOfSlots } from '../shell/lockWhereTheyStand';
import { say } from '../uiState';

/** What has fallen stays as it is seen now, by hand; nothing is let go any more. */
export async function leaveAsItLies(a: Arrangement): Promise<void> {
  const p = engine().state.result.arrangements.get(a.id)?.placements;
  if (!p) return;
  const slots = (state: number) => [...p.slot].filter((_, i) => p.state[i] === state);
  const [lie, gone] = [slots(STATE.placed), slots(STATE.fallen)];
  const places = await placesOfSlots(a, p, lie);
  dispatch(takeAsItLies, { id: a.id, places, gone });
  const left = gone.length > 0 ? ` ${plural(gone.length, 'prop')} that were gone are taken out.` : '';
  say(`“${a.name}” stays as it lies.${left} Undo lets it fall again.`);
}
