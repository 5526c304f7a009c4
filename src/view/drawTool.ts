import { hasPoints } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import { addStroke, continueStroke } from '@/store/commands/pathEdits';
import { addPath } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { selectNode } from '@/store/selection';
import { pick } from './pick';
import { kept, shownPointsOf, surfaceUnder } from './onSurface';
import { onPlane, toScreen, viewNormal } from './project';
import { snapAt, type Snap } from './snap/snap';
import { chooseTool, setDrawing, useView } from './viewState';
import type { ViewHandle } from '@/view/handle';

/** The drawing tool: clicks become the points of a path, of another stroke, or of one that is gone on with. */

const CLOSE_PIXELS = 11;
const SAME_PIXELS = 3;

/** What a pointer event asks of the drawing: Shift keeps to 15° steps, Ctrl or ⌘ suspends snapping. */
export interface DrawKeys {
  straight: boolean;
  free: boolean;
}

/** The place under a pixel where a point goes, before snapping. Upright planes go through the point before. */
function placeUnder(view: ViewHandle, x: number, y: number, last?: Vec3): Vec3 | null {
  const { mode, plane } = useView.getState();
  const through = last ?? view.target;
  if (plane === 'x' || (plane === 'auto' && mode === 'side')) return onPlane(view, x, y, [1, 0, 0], through);
  if (plane === 'z' || (plane === 'auto' && mode === 'front')) return onPlane(view, x, y, [0, 0, 1], through);
  if (plane === 'view') return onPlane(view, x, y, viewNormal(view.camera), through);
  const hit = plane === 'auto' ? pick(view, x, y, 'surfaces') : null;
  if (hit?.kind === 'surface') return hit.point;
  const ground = onPlane(view, x, y, [0, 1, 0], [0, 0, 0]);
  // Near the horizon the ground runs away; a point kilometres off is never meant.
  return ground && Math.hypot(ground[0] - view.target[0], ground[2] - view.target[2]) < 500 ? ground : null;
}

function closes(view: ViewHandle, points: Vec3[], x: number, y: number): boolean {
  const { onto } = useView.getState().drawing;
  if (points.length < 3 || onto) return false;
  const first = toScreen(view, points[0]);
  return first.ahead && Math.hypot(first.x - x, first.y - y) <= CLOSE_PIXELS;
}

/** The last point so far; going on with a stroke, that is its end at first. */
export function lastPoint(): Vec3 | undefined {
  const { points, onto } = useView.getState().drawing;
  if (points.length || !onto?.point) return points.at(-1);
  return shownPointsOf(onto.path).find((p) => p.id === onto.point)?.position;
}

function nextPoint(
  view: ViewHandle,
  x: number,
  y: number,
  keys: DrawKeys,
): { at: Vec3 | null; snap: Snap | null } {
  const from = lastPoint();
  const free = placeUnder(view, x, y, from);
  const snap = keys.free ? null : snapAt(view, { x, y, free, from, straight: keys.straight });
  return { at: snap?.at ?? free, snap };
}

export function drawAhead(view: ViewHandle, x: number, y: number, keys: DrawKeys): void {
  const { points } = useView.getState().drawing;
  const closing = closes(view, points, x, y);
  const { at, snap } = nextPoint(view, x, y, keys);
  setDrawing({ closing, ahead: closing ? points[0] : at, snap: closing ? null : snap });
}

export function drawClick(view: ViewHandle, x: number, y: number, keys: DrawKeys): void {
  const { points, ties, onto } = useView.getState().drawing;
  if (closes(view, points, x, y)) return finishDrawing(true);
  const { at, snap } = nextPoint(view, x, y, keys);
  if (!at) return;
  // The first click on the end of a path that has points goes on with it.
  if (points.length === 0 && !onto && snap?.kind === 'end') {
    const path = useDocument.getState().scene.paths.find((p) => p.id === snap.path);
    const point = hasPoints(path) ? path.source.points[snap.point!]?.id : undefined;
    if (path && point) return setDrawing({ onto: { path: path.id, point }, ahead: at });
  }
  const last = lastPoint();
  if (last) {
    const p = toScreen(view, last);
    // The second click of a double click.
    if (Math.hypot(p.x - x, p.y - y) < SAME_PIXELS) return;
  }
  setDrawing({ points: [...points, at], ties: [...ties, snap?.tie ?? null], ahead: at });
}

/** How many points make something of what is drawn. */
export const enoughDrawn = (): boolean => {
  const { points, onto } = useView.getState().drawing;
  return points.length >= (onto?.point ? 1 : 2);
};

export function drawDoubleClick(): void {
  if (enoughDrawn()) finishDrawing(false);
}

/** Escape: takes the last point back; with none left, puts the tool away. */
export function drawStepBack(): void {
  const { points, ties } = useView.getState().drawing;
  if (points.length === 0) chooseTool('pick');
  else setDrawing({ points: points.slice(0, -1), ties: ties.slice(0, -1) });
}

/** Makes the path, the stroke or its continuation, and selects it. Too few points make none. */
export function finishDrawing(closed: boolean): void {
  if (!enoughDrawn()) return;
  const { drawing, pointKind: kind, stays } = useView.getState();
  const { onto } = drawing;
  const round = (v: number) => Number(v.toFixed(6));
  const points = drawing.points.map((p): Vec3 => [round(p[0]), round(p[1]), round(p[2])]);
  // What lies on a surface goes with that, and with nothing else.
  const ties = drawing.ties;
  let path = onto?.path;
  if (onto) {
    const owner = useDocument.getState().scene.paths.find((p) => p.id === onto.path);
    const own = hasPoints(owner) ? points.map((p) => kept(owner, p)) : points;
    const free = hasPoints(owner) && owner.source.on ? undefined : ties;
    if (onto.point)
      dispatch(continueStroke, { path: onto.path, point: onto.point, points: own, kind, ties: free });
    else dispatch(addStroke, { path: onto.path, points: own, kind, ties: free });
  } else {
    const hangs = ties.every((t) => t?.to === 'slot');
    const under = stays && !ties.some(Boolean) ? surfaceUnder(points) : null;
    path = dispatch(addPath, {
      points: under?.rest ?? points,
      closed,
      kind,
      on: under?.id,
      ties,
      // From snap point to snap point it is a line that hangs.
      ...(hangs && { name: 'Line', hang: {} }),
    });
  }
  chooseTool('pick');
  if (path) selectNode('path', path);
}
