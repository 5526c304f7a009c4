import { STATE } from '@/core/arrange/result';
import { hasPoints } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNodes, selectPoints, selectSlots, useSelection, type NodeRef } from '@/store/selection';
import type { ViewHandle } from '@/view/handle';
import { editedPath } from './edited';
import { shownPointsOf } from './onSurface';
import { placesOf } from './places';
import { toScreen } from './project';

/** Pixels of the view, from one corner to the other. */
interface Corners {
  x: number;
  y: number;
  x1: number;
  y1: number;
}

/**
 * Takes in what lies in a box of the view, beside what is selected: points of the path that is worked on, or props of
 * the arrangement in hand; where there are none of those, arrangements, paths and surfaces that lie in it whole.
 */
export function takeBox(view: ViewHandle, { x, y, x1, y1 }: Corners): void {
  const between = (v: number, s: number, t: number) => v >= Math.min(s, t) && v <= Math.max(s, t);
  const isIn = (place: Vec3): boolean => {
    const at = toScreen(view, place);
    return at.ahead && between(at.x, x, x1) && between(at.y, y, y1);
  };
  // With some props in hand already it is more of them that are meant.
  const takes = useSelection.getState().slots ? [takeSlots, takePoints] : [takePoints, takeSlots];
  if (!takes.some((take) => take(isIn))) takeNodes(isIn);
}

type IsIn = (place: Vec3) => boolean;

function takePoints(isIn: IsIn): boolean {
  const path = editedPath();
  if (!hasPoints(path)) return false;
  const inside = shownPointsOf(path.id).flatMap((p) => (isIn(p.position) ? [p.id] : []));
  const had = useSelection.getState().points;
  const before = had?.path === path.id ? had.ids : [];
  if (inside.length > 0) selectPoints(path.id, [...new Set([...before, ...inside])]);
  return inside.length > 0;
}

function takeSlots(isIn: IsIn): boolean {
  const { node, slots } = useSelection.getState();
  const result = node?.kind === 'arrangement' ? engine().state.result.arrangements.get(node.id) : undefined;
  if (!node || !result) return false;
  const p = result.placements;
  const inside: number[] = [];
  for (let i = 0; i < p.count; i++)
    if (
      p.state[i] === STATE.placed &&
      isIn([p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]])
    )
      inside.push(p.slot[i]);
  const before = slots?.arrangement === node.id ? slots.ids : [];
  if (inside.length > 0) selectSlots(node.id, [...new Set([...before, ...inside])]);
  return inside.length > 0;
}

function takeNodes(isIn: IsIn): void {
  const { surfaces, paths, arrangements } = useDocument.getState().scene;
  const shown = (kind: NodeRef['kind'], list: readonly { id: string; visible: boolean }[]) =>
    list.flatMap(({ id, visible }): NodeRef[] => (visible ? [{ kind, id }] : []));
  const inside = [
    ...shown('surface', surfaces),
    ...shown('path', paths),
    ...shown('arrangement', arrangements),
  ].filter((node) => {
    const places = placesOf(node);
    return places.length > 0 && places.every(isIn);
  });
  if (inside.length > 0) selectNodes(inside);
}
