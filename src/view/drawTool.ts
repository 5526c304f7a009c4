import type { Vec3 } from '@/core/math/vec3';
import { addPath } from '@/store/commands/paths';
import { dispatch } from '@/store/document';
import { selectNode } from '@/store/selection';
import { pick } from './pick';
import { onPlane, toScreen } from './project';
import { chooseTool, setDrawing, useView, type ViewHandle } from './viewState';

/** The drawing tool: clicks become the points of a new path. */

const CLOSE_PIXELS = 11;
const SAME_PIXELS = 3;

/** The place under a pixel where a point goes: a surface, else the ground, else (seen from a side) the view's plane. */
export function placeUnder(view: ViewHandle, x: number, y: number): Vec3 | null {
  const { mode } = useView.getState();
  if (mode === 'front') return onPlane(view, x, y, [0, 0, 1], view.target);
  if (mode === 'side') return onPlane(view, x, y, [1, 0, 0], view.target);
  const hit = pick(view, x, y, 'surfaces');
  if (hit?.kind === 'surface') return hit.point;
  const ground = onPlane(view, x, y, [0, 1, 0], [0, 0, 0]);
  // Near the horizon the ground runs away; a point kilometres off is never meant.
  return ground && Math.hypot(ground[0] - view.target[0], ground[2] - view.target[2]) < 500 ? ground : null;
}

/** Holds a point to the nearest 15° on the ground as seen from the one before. */
function straightened(from: Vec3, to: Vec3): Vec3 {
  const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
  const step = Math.PI / 12;
  const angle = Math.round(Math.atan2(dz, dx) / step) * step;
  const reach = dx * Math.cos(angle) + dz * Math.sin(angle);
  return [from[0] + Math.cos(angle) * reach, to[1], from[2] + Math.sin(angle) * reach];
}

function closes(view: ViewHandle, points: Vec3[], x: number, y: number): boolean {
  if (points.length < 3) return false;
  const first = toScreen(view, points[0]);
  return first.ahead && Math.hypot(first.x - x, first.y - y) <= CLOSE_PIXELS;
}

function nextPoint(view: ViewHandle, x: number, y: number, straight: boolean): Vec3 | null {
  const at = placeUnder(view, x, y);
  const last = useView.getState().drawing.points.at(-1);
  return at && last && straight ? straightened(last, at) : at;
}

export function drawAhead(view: ViewHandle, x: number, y: number, straight: boolean): void {
  const { points } = useView.getState().drawing;
  const closing = closes(view, points, x, y);
  setDrawing({ closing, ahead: closing ? points[0] : nextPoint(view, x, y, straight) });
}

export function drawClick(view: ViewHandle, x: number, y: number, straight: boolean): void {
  const { points } = useView.getState().drawing;
  if (closes(view, points, x, y)) return finishDrawing(true);
  const at = nextPoint(view, x, y, straight);
  if (!at) return;
  const last = points.at(-1);
  if (last) {
    const p = toScreen(view, last);
    // The second click of a double click.
    if (Math.hypot(p.x - x, p.y - y) < SAME_PIXELS) return;
  }
  setDrawing({ points: [...points, at], ahead: at });
}

export function drawDoubleClick(): void {
  if (useView.getState().drawing.points.length >= 2) finishDrawing(false);
}

/** Escape: takes the last point back; with none left, puts the tool away. */
export function drawStepBack(): void {
  const { points } = useView.getState().drawing;
  if (points.length === 0) chooseTool('pick');
  else setDrawing({ points: points.slice(0, -1) });
}

/** Makes the path and selects it. Fewer than two points make none. */
export function finishDrawing(closed: boolean): void {
  const { points } = useView.getState().drawing;
  if (points.length < 2) return;
  const round = (v: number) => Number(v.toFixed(4));
  const made = dispatch(addPath, {
    points: points.map((p): Vec3 => [round(p[0]), round(p[1]), round(p[2])]),
    closed,
  });
  chooseTool('pick');
  if (made) selectNode('path', made);
}
