import { MOST_LAMPS, type Lamp } from '@/core/light/lampSchema';
import { lampOver, lampSet, type Subject } from '@/core/light/lampSet';
import { addLamps } from '@/store/commands/lamps';
import { dispatch, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { boxOf } from '@/view/fit';
import { currentView } from '@/view/handle';
import { selectedPlaces } from '@/view/places';
import { useView } from '@/view/viewState';
import { say } from '../uiState';

/** Where nothing is selected a light is put over so much around what is looked at, metres. */
const AROUND = 1;

/** What a light is put to: what is selected, or what is looked at; and what it stays turned to. */
function subjectOf(): { subject: Subject; aimedAt: string | null } {
  const view = currentView();
  const { x, y, z } = view?.camera.position ?? { x: 9, y: 6, z: 13 };
  const places = selectedPlaces();
  const at = view?.target ?? [0, 0, 0];
  const around = places.length > 0 ? places : [at.map((v) => v - AROUND), at.map((v) => v + AROUND)];
  const { node, slots } = useSelection.getState();
  const follows =
    node && !slots && ['arrangement', 'path', 'surface'].includes(node.kind) && places.length > 0;
  return { subject: { ...boxOf(around), eye: [x, y, z] }, aimedAt: follows ? node.id : null };
}

/** Puts one light over what is selected, or a set of three around it. */
export function putIn(what: Lamp['kind'] | 'set'): void {
  const { readOnly, scene } = useDocument.getState();
  if (readOnly) return;
  const { subject, aimedAt } = subjectOf();
  const lamps = what === 'set' ? lampSet(subject, aimedAt) : [lampOver(what, subject, aimedAt)];
  if (scene.lamps.length + lamps.length > MOST_LAMPS)
    return say(
      `A scene has up to ${MOST_LAMPS} lights of its own. Take one out, or let a prop glow instead.`,
    );
  useView.setState({ lamp: dispatch(addLamps, { lamps }) ?? null });
}
