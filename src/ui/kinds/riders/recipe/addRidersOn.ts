import { addRiders } from '@/store/commands/riders';
import { dispatch, useDocument } from '@/store/document';
import { selectArrangement } from '@/store/selection';

/** Riders on an arrangement, to begin with of the last prop of the basket. */
export function addRidersOn(on: string): void {
  const prop = useDocument.getState().scene.props.at(-1)?.id;
  const made = dispatch(addRiders, { on, values: prop ? { props: [{ prop, weight: 1 }] } : {} });
  if (made) selectArrangement(made);
}
