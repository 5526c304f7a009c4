import type { GivenOver } from '@/core/arrange/scatter/schema';
import type { Scene } from '@/core/scene/schema';
import { addScatter } from '@/store/commands/scatter';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes } from '@/store/selection';
import type { MenuEntry } from '../../controls/PlainMenu';
import { openDialog } from '../../uiState';

/** New scatters: over surfaces, inside closed paths, inside closed surfaces. */

/** Fills an area with the props in hand; with none its empty places show. */
function scatterOver(over: GivenOver): void {
  const props = selectedNodes().flatMap((n) => (n.kind === 'prop' ? [n.id] : []));
  const made = dispatch(addScatter, { over, props });
  if (made) selectArrangement(made);
}

export function newScatterEntries({ surfaces, paths }: Scene): MenuEntry[] {
  const { paths: drawn } = engine().state.result;
  const closed = paths.filter((p) => p.closed || drawn.get(p.id)?.strokes.some((s) => s.closed));
  if (surfaces.length === 0 && closed.length === 0)
    return [{ text: 'Scatter: bring in a surface, or close a path', run: () => openDialog('bring-in') }];
  const entries = [
    ...surfaces.map((s) => ({
      text: `Over ${s.name}`,
      run: () => scatterOver({ kind: 'surfaces', surfaces: [s.id] }),
    })),
    ...closed.map((p) => ({
      text: `Inside ${p.name}, from above`,
      run: () => scatterOver({ kind: 'paths', paths: [p.id] }),
    })),
    ...surfaces.map((s) => ({
      text: `Filling ${s.name}`,
      hint: 'Inside a closed surface',
      run: () => scatterOver({ kind: 'volume', surface: s.id }),
    })),
  ];
  return entries.map((entry, i) => ({ ...entry, ...(i === 0 && { under: 'A scatter of props' }) }));
}
