import { has, type With } from '@/core/arrange/registry';
import type { MeshRef } from '@/core/mesh/meshRef';
import { builtEntry, builtSettings } from '@/demo/library';
import { setArrangement } from '@/store/commands/arrangements';
import { addRun } from '@/store/commands/runs';
import { addScatterProps } from '@/store/commands/scatter';
import { addProp } from '@/store/commands/scene';
import { addGoods } from '@/store/commands/stock';
import { addSurface } from '@/store/commands/surfaces';
import { applyCommand } from '@/store/command';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, useSelection } from '@/store/selection';
import { laySheet } from '../kinds/sheet/newSheet';
import { editedPath } from '@/view/edited';
import { chooseTool } from '@/view/viewState';
import { say } from '../uiState';

/** What goes with a prop that is dragged: the others that are selected with it. */
export function goingWith(prop: string): string[] {
  const props = selectedNodes().flatMap((n) => (n.kind === 'prop' ? [n.id] : []));
  return props.includes(prop) ? props.filter((id) => id !== prop) : [];
}

/** The scatter in hand; null for anything else. */
export function filledInHand(): string | null {
  const { node } = useSelection.getState();
  const a = useDocument.getState().scene.arrangements.find((x) => x.id === node?.id);
  return has(a, 'spread') ? a.id : null;
}

/** The stock in hand; null for anything else. */
export function shelvesInHand(): string | null {
  const { node } = useSelection.getState();
  const a = useDocument.getState().scene.arrangements.find((x) => x.id === node?.id);
  return has(a, 'shelves') ? a.id : null;
}

/** The strands in hand; undefined for anything else. */
function linesInHand(): With<'hang'> | undefined {
  const { node } = useSelection.getState();
  const a = useDocument.getState().scene.arrangements.find((x) => x.id === node?.id);
  return has(a, 'hang') ? a : undefined;
}

/**
 * Hangs a prop on a path as a new run; without one, on the path in hand or the only one. @param others that are mixed
 * with it, in equal shares
 */
export function hangProp(prop: string, onto?: string, others: string[] = []): void {
  const { scene } = useDocument.getState();
  const { node } = useSelection.getState();
  // With a scatter in hand it shares that one's places.
  const filled = onto ? null : filledInHand();
  if (filled) return void dispatch(addScatterProps, { id: filled, props: [prop, ...others] });
  const shelves = onto ? null : shelvesInHand();
  if (shelves) return void dispatch(addGoods, { id: shelves, props: [prop, ...others] });
  // With lines in hand it lies along them.
  const lines = onto ? undefined : linesInHand();
  if (lines) {
    const added = [prop, ...others].filter((id) => !lines.props.some((p) => p.prop === id));
    const props = [...lines.props, ...added.map((id) => ({ prop: id, weight: 1 }))];
    return void dispatch(setArrangement, { id: lines.id, values: { props } });
  }
  // With a surface in hand it is laid all over that.
  if (!onto && node?.kind === 'surface') return laySheet(node.id, prop);
  const path = onto ?? editedPath()?.id ?? (scene.paths.length === 1 ? scene.paths[0].id : undefined);
  if (!path) {
    if (scene.paths.length === 0) {
      chooseTool('draw');
      say('Draw a path first: click points in the scene, then press Enter. Then press + on the prop again.');
    } else say('Choose a path in the list or the scene first, then press + again.');
    return;
  }
  const made = dispatch(addRun, { prop, path, with: others });
  if (made) selectArrangement(made);
}

/** Takes a built-in prop into the basket. @returns its id */
export function takeBuilt(name: string): string | undefined {
  const entry = builtEntry(name)!;
  const mesh: MeshRef = { source: 'built', name };
  if (entry.use === 'surface') return dispatch(addSurface, { name: entry.title, mesh });
  return dispatch(addProp, { name: entry.title, mesh, settings: builtSettings(name) });
}

let previewed: string | null = null;

/** Shows the run that a drop would make, without making it. Null takes the preview away. */
export function previewHang(prop: string, path: string | null, others: string[]): void {
  const key = path && `${prop} ${path}`;
  if (key === previewed) return;
  previewed = key;
  const { scene } = useDocument.getState();
  const tried = path && applyCommand(scene, addRun, { prop, path, with: others });
  engine().preview(tried && tried.entry ? { scene: tried.scene, patches: tried.entry.patches } : null);
}

/** Ends a preview whose run now exists, or never will. */
export function endPreview(): void {
  if (previewed) engine().preview(null);
  previewed = null;
}
