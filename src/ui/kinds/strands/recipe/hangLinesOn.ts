import { addStrands } from '@/store/commands/strands';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement } from '@/store/selection';

/** Names of the snap points of what an arrangement has placed. */
export function snapNames(on: string | null): string[] {
  const { props } = useDocument.getState().scene;
  const placed = on === null ? [] : (engine().state.result.arrangements.get(on)?.placements.props ?? []);
  return [
    ...new Set(placed.flatMap((id) => props.find((p) => p.id === id)?.snapPoints.map((s) => s.name) ?? [])),
  ];
}

/** Lines from each to the next of what an arrangement has placed, at their first snap point. */
export function hangLinesOn(on: string): void {
  const made = dispatch(addStrands, { on, snap: snapNames(on)[0] ?? null });
  if (made) selectArrangement(made);
}
