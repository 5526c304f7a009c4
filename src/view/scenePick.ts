import { wayWithin } from '@/core/arrange/inside';
import type { WayStep } from '@/core/arrange/steps/withinSchema';
import { nearestOnPath } from '@/core/curve/nearest';
import { compilePath, type CompiledPath } from '@/core/curve/compile';
import { pointAt } from '@/core/curve/sample';
import { hasPoints } from '@/core/curve/schema';
import { dispatch, useDocument } from '@/store/document';
import { addPointAt } from '@/store/commands/paths';
import { engine } from '@/store/engine';
import {
  joinNode,
  joinSlot,
  selectNode,
  selectPoint,
  selectSlots,
  selectWithin,
  setHover,
  setOverPath,
  useSelection,
} from '@/store/selection';
import { currentView, type ViewHandle } from '@/view/handle';
import { editedPath } from './edited';
import { pick, type Hit } from './pick';
import { mayBeNear, pickFrustum } from './near';
import { nearestOnScreen } from './project';

/** What is under a place of the view, and what a click there takes in hand. */

/** How close to a path, in pixels, the pointer is on it. */
const ON_PATH = 7;

/** The visible path under a pixel, if one is, with the stroke and the length there. */
export function pathUnder(
  x: number,
  y: number,
  within = ON_PATH,
): { id: string; stroke: number; s: number } | null {
  const view = currentView();
  if (!view) return null;
  const around = pickFrustum(view, x, y, within);
  let best: { id: string; stroke: number; s: number; pixels: number } | null = null;
  for (const path of useDocument.getState().scene.paths) {
    const result = engine().state.result.paths.get(path.id);
    if (!path.visible || !result?.ok) continue;
    result.strokes.forEach((line, stroke) => {
      if (!mayBeNear(around, line.position)) return;
      const at = nearestOnScreen(view, line, x, y);
      if (at.pixels <= within && (!best || at.pixels < best.pixels)) best = { id: path.id, stroke, ...at };
    });
  }
  return best;
}

function insertOn(id: string, stroke: number, s: number): void {
  const path = useDocument.getState().scene.paths.find((p) => p.id === id);
  if (!hasPoints(path)) return;
  const compiled = compilePath(path);
  const curve = compiled.ok ? compiled.strokes[stroke] : undefined;
  if (!curve) return;
  const at = nearestOnPath(curve, pointAt(curve, path.source.on ? restLength(id, stroke, curve, s) : s));
  const made = dispatch(addPointAt, { path: id, stroke, s: at.s, segment: at.segment, t: at.t });
  if (made) selectPoint(id, made);
}

/** Whether a click on a path puts a point there: it is the path itself that is in hand, and not what stands on it. */
export function takesPoints(id: string): boolean {
  const { node } = useSelection.getState();
  return node?.kind === 'path' && node.id === id && hasPoints(editedPath());
}

/** Selects what is at a place of the view; where nothing is, nothing. */
export function takeInHand(view: ViewHandle, x: number, y: number): void {
  const hit = pick(view, x, y);
  const { slots } = useSelection.getState();
  if (hit?.kind === 'prop') {
    const had = slots?.arrangement === hit.arrangement && slots.ids.includes(hit.slot);
    if (!had) selectSlots(hit.arrangement, [hit.slot]);
    return;
  }
  const over = pathUnder(x, y);
  const surface = over ? null : pick(view, x, y, 'surfaces');
  if (over) selectNode('path', over.id);
  else if (surface?.kind === 'surface') selectNode('surface', surface.id);
  else useSelection.setState({ node: null, points: null, slots: null });
}

/** Takes the arrangement, path or surface at a place of the view in hand beside what is selected, or out again. */
export function joinUnder(view: ViewHandle, x: number, y: number): void {
  const hit = pick(view, x, y);
  if (hit?.kind === 'prop') return joinNode({ kind: 'arrangement', id: hit.arrangement });
  const over = pathUnder(x, y);
  const surface = over ? null : pick(view, x, y, 'surfaces');
  if (over) joinNode({ kind: 'path', id: over.id });
  else if (surface?.kind === 'surface') joinNode({ kind: 'surface', id: surface.id });
  return undefined;
}

/** The length along a curve at rest that a length along its shown path has come from: as far from point to point. */
function restLength(id: string, stroke: number, rest: CompiledPath, s: number): number {
  const drawn = engine().state.result.paths.get(id)?.strokes[stroke];
  if (!drawn) return s;
  const n = drawn.pointS.length;
  let i = n - 1;
  while (i > 0 && drawn.pointS[i] > s) i--;
  const end = (list: Float64Array, length: number) => (i + 1 < n ? list[i + 1] : length);
  const share = (s - drawn.pointS[i]) / (end(drawn.pointS, drawn.length) - drawn.pointS[i] || 1);
  return rest.pointS[i] + share * (end(rest.pointS, rest.length) - rest.pointS[i]);
}

/** What is under a place of the view lights up: a prop, or else a path. */
export function hoverScene(
  view: ViewHandle,
  x: number,
  y: number,
): { prop: boolean; path: string | undefined } {
  const hit = pick(view, x, y);
  setHover(hit?.kind === 'prop' ? { arrangement: hit.arrangement, slot: hit.slot } : null);
  const path = hit?.kind === 'prop' ? undefined : pathUnder(x, y)?.id;
  setOverPath(path ?? null);
  return { prop: hit?.kind === 'prop', path };
}

/** How far into a copy of a bundle a click goes: on one that is in hand a step further than what of it is in hand. */
function deeper({ arrangement, slot, inside: row }: Extract<Hit, { kind: 'prop' }>): WayStep[] {
  const { slots } = useSelection.getState();
  const { inside } = engine().state.result.arrangements.get(arrangement) ?? {};
  const isIn = slots?.arrangement === arrangement && slots.ids.length === 1 && slots.ids[0] === slot;
  if (row === undefined || !inside || !isIn) return [];
  const way = wayWithin(inside, row);
  const now = slots.within ?? [];
  let same = 0;
  while (
    same < now.length &&
    now[same].slot === way[same]?.slot &&
    now[same].arrangement === way[same].arrangement
  )
    same++;
  return way.slice(0, same + 1);
}

/** A click on the scene: what is there is taken in hand; on the path in hand it puts a point. @param add beside what is */
export function clickScene(x: number, y: number, add: boolean): void {
  const view = currentView();
  const hit = view && pick(view, x, y);
  if (hit?.kind === 'prop') {
    return add ? joinSlot(hit.arrangement, hit.slot) : selectWithin(hit.arrangement, hit.slot, deeper(hit));
  }
  const over = pathUnder(x, y);
  if (over) {
    return takesPoints(over.id) ? insertOn(over.id, over.stroke, over.s) : selectNode('path', over.id);
  }
  useSelection.setState({ points: null, slots: null });
  return undefined;
}
