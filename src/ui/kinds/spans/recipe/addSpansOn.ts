import { addSpans, addSpansOver } from '@/store/commands/spans';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement } from '@/store/selection';

/** Spans between the props of an arrangement, at three quarters of their height, of the last prop of the basket. */
export function addSpansOn(on: string): void {
  const prop = useDocument.getState().scene.props.at(-1)?.id;
  const { arrangements, propBounds } = engine().state.result;
  const posts = arrangements.get(on)?.placements;
  const bounds = posts && propBounds[posts.props[0] ?? ''];
  const height = bounds ? Number((bounds.max[1] * 0.75).toFixed(2)) : 0;
  const end = { offset: [0, height, 0] as [number, number, number] };
  const made = dispatch(addSpans, {
    on,
    values: { ...(prop && { props: [{ prop, weight: 1 }] }), from: end, to: structuredClone(end) },
  });
  if (made) selectArrangement(made);
}

/** Members over the divisions of a path, of the last prop of the basket: without posts. */
export function addSpansAlong(path: string): void {
  const prop = useDocument.getState().scene.props.at(-1)?.id;
  const made = dispatch(addSpansOver, { path, props: prop ? [{ prop, weight: 1 }] : [] });
  if (made) selectArrangement(made);
}
