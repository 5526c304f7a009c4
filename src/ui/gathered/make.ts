import { needsOf, surfacesOf } from '@/core/arrange/registry';
import { shownGrounds } from '@/core/evaluate/gathered/takes';
import type { SolidStep } from '@/core/mesh/solid/solidSchema';
import { makeDustSheet, makeNetwork, makeSolid } from '@/store/commands/gathered';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectedNodes, selectNode } from '@/store/selection';
import { say } from '../uiState';

/** Surfaces made from what is selected: solids and dust sheets. */

const scene = () => useDocument.getState().scene;

/** Ids of the selected surfaces and arrangements: surfaces first, each sort in the order in which they were selected. */
export function selectedBodies(): string[] {
  if (useDocument.getState().readOnly) return [];
  return inOrder(selectedNodes().map((n) => n.id));
}

/** Those of some ids that are surfaces, then those that are arrangements. */
export function inOrder(ids: readonly string[]): string[] {
  const { surfaces, arrangements } = scene();
  const of = (list: readonly { id: string }[]) => ids.filter((id) => list.some((n) => n.id === id));
  return [...of(surfaces), ...of(arrangements)];
}

/** What an arrangement stands on, where that is one surface: what it is joined to, or cut out of, if nothing else is named. */
function standsOn(id: string): string | null {
  const { arrangements, surfaces } = scene();
  const a = arrangements.find((x) => x.id === id);
  const on = a ? surfacesOf(needsOf(a), shownGrounds(surfaces)) : [];
  return on.length === 1 ? on[0] : null;
}

/**
 * Joins bodies to a solid, or cuts all others out of the first. One arrangement alone is taken with the surface that it
 * stands on.
 */
export function solidOf(ids: readonly string[], how: SolidStep['how']): void {
  const { surfaces, arrangements } = scene();
  const alone = ids.length === 1 && arrangements.some((a) => a.id === ids[0]);
  const base = alone ? standsOn(ids[0]) : null;
  const all = base ? [base, ...ids] : [...ids];
  if (how !== 'join' && all.length < 2)
    return say('Select what it is to be cut out of as well: the surface first.', 'problem');
  const name = surfaces.find((s) => s.id === all[0])?.name ?? arrangements.find((a) => a.id === all[0])?.name;
  const steps = all.map((of, i) => ({ of, how: i === 0 ? ('join' as const) : how }));
  const made = dispatch(makeSolid, { name: `${name ?? 'Solid'}, solid`, steps });
  if (made) selectNode('surface', made);
}

/** Ids of the selected paths. */
export function selectedPaths(): string[] {
  if (useDocument.getState().readOnly) return [];
  return selectedNodes().flatMap((n) => (n.kind === 'path' ? [n.id] : []));
}

/** Makes a network of tubes along paths. */
export function networkOfPaths(paths: readonly string[]): void {
  const made = dispatch(makeNetwork, { paths: [...paths] });
  if (made) selectNode('surface', made);
}

/** Lets a sheet down over bodies, about a hundred squares along their longer side. */
export async function dustSheetOver(ids: readonly string[]): Promise<void> {
  const box = await engine().boxAbout(ids);
  const size = box && Math.max(box.max[0] - box.min[0], box.max[2] - box.min[2]);
  const cell = size ? Math.min(1000, Math.max(0.001, Number((size / 100).toPrecision(1)))) : undefined;
  const fitting = cell ? { cell, softness: cell * 4, beyond: cell * 8 } : {};
  const made = dispatch(makeDustSheet, { over: [...ids], values: fitting });
  if (made) selectNode('surface', made);
}
