import type { KeyboardEvent, PointerEvent, RefObject } from 'react';
import type { PathPoint, PointsPath } from '@/core/curve/schema';
import type { Tie } from '@/core/curve/hang/schema';
import type { Vec3 } from '@/core/math/vec3';
import { movePoints, removePoints, setPoint } from '@/store/commands/paths';
import { dispatch } from '@/store/document';
import { selectPoint } from '@/store/selection';
import { currentView, type ViewHandle } from '../handle';
import { kept, keptWay } from '../onSurface';
import { pickPlace } from '../pick';
import { alongAxis, onPlane } from '../project';
import { snapAt } from '../snap/snap';
import { setDragSnap } from '../viewState';
import { dragPlane, followPointer, minus, plus, round } from './followPointer';

/** What is done to the points of a path by hand. */
export interface PointDrags {
  grab(point: PathPoint): (e: PointerEvent<Element>) => void;
  /** Takes a point in hand that is not, for its menu. */
  take(point: PathPoint): void;
  grabArm(point: PathPoint, axis: Vec3): (e: PointerEvent<Element>) => void;
  grabHandle(point: PathPoint, which: 'handleIn' | 'handleOut'): (e: PointerEvent<Element>) => void;
  onKeyDown(point: PathPoint): (e: KeyboardEvent) => void;
}

/**
 * @param points as they are shown: those on a surface are dragged over it, and kept where that is at rest
 * @param ids the selected ones @param start keeps where these were when a drag began
 */
export function pointDrags(
  view: ViewHandle,
  path: PointsPath,
  points: readonly PathPoint[],
  ids: readonly string[],
  start: RefObject<Record<string, Vec3>>,
): PointDrags {
  const pinned = path.source.on !== undefined;
  /** Moves all selected points by the way that one of them went. */
  const moveBy = (by: Vec3, key: string, ties: Record<string, Tie> = {}) =>
    dispatch(
      movePoints,
      {
        path: path.id,
        ties,
        to: Object.fromEntries(Object.entries(start.current).map(([id, p]) => [id, kept(path, plus(p, by))])),
      },
      key,
    );
  const remember = (chosen: readonly string[]) => {
    start.current = Object.fromEntries(
      points.filter((p) => chosen.includes(p.id)).map((p) => [p.id, p.position]),
    );
  };
  const grab = (point: PathPoint) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    const chosen = ids.includes(point.id) && !e.shiftKey ? ids : [point.id];
    if (!ids.includes(point.id) || e.shiftKey) selectPoint(path.id, point.id, e.shiftKey);
    remember(chosen);
    const key = `move ${point.id}`;
    const from = point.position;
    const index = points.indexOf(point);
    const moving = {
      path: path.id,
      points: new Set(chosen.map((id) => points.findIndex((p) => p.id === id))),
    };
    const before = points[index - 1]?.position ?? (path.closed ? points.at(-1)?.position : undefined);
    followPointer(
      e,
      key,
      (x, y, m) => {
        const now = currentView();
        if (!now) return;
        const under = pinned ? pickPlace(now, x, y) : null;
        const free =
          under && under.surface === path.source.on
            ? under.at
            : onPlane(now, x, y, dragPlane(now, m.altKey), from);
        const suspended = m.ctrlKey || m.metaKey || m.altKey;
        const snap = suspended ? null : snapAt(now, { x, y, free, from: before, moving });
        setDragSnap(snap);
        const at = snap?.at ?? free;
        // One that is put on something to be connected to is connected to it; moved together, none is.
        const tie = chosen.length === 1 && !pinned && snap?.tie;
        if (at) moveBy(minus(at, from), key, tie ? { [point.id]: tie } : {});
      },
      () => setDragSnap(null),
    );
  };
  const grabArm = (point: PathPoint, axis: Vec3) => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    remember(ids);
    const from = point.position;
    const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
    const offset = alongAxis(view, e.clientX - box.left, e.clientY - box.top, from, axis) ?? 0;
    const key = `arm ${point.id}`;
    followPointer(e, key, (x, y) => {
      const now = currentView();
      const reach = now && alongAxis(now, x, y, from, axis);
      if (reach !== null) moveBy(axis.map((a) => a * (reach - offset)) as Vec3, key);
    });
  };
  const grabHandle = (point: PathPoint, which: 'handleIn' | 'handleOut') => (e: PointerEvent<Element>) => {
    if (e.button !== 0) return;
    const from = plus(point.position, point[which]);
    const key = `${which} ${point.id}`;
    followPointer(e, key, (x, y, m) => {
      const now = currentView();
      const at = now && onPlane(now, x, y, dragPlane(now, m.altKey), from);
      if (!at) return;
      const handle = keptWay(path, minus(at, point.position)).map(round) as Vec3;
      const other = which === 'handleIn' ? 'handleOut' : 'handleIn';
      // The other side stays in line, with its own length, unless Shift breaks it.
      const l = Math.hypot(...handle);
      const k = l > 0 ? -Math.hypot(...keptWay(path, point[other])) / l : 0;
      const values =
        m.shiftKey || k === 0
          ? { [which]: handle }
          : { [which]: handle, [other]: handle.map((v) => round(v * k)) as Vec3 };
      dispatch(setPoint, { path: path.id, id: point.id, values }, key);
    });
  };
  const onKeyDown = (point: PathPoint) => (e: KeyboardEvent) => {
    const step = e.shiftKey ? 1 : e.altKey ? 0.01 : 0.1;
    const way: Record<string, Vec3> = {
      ArrowLeft: [-step, 0, 0],
      ArrowRight: [step, 0, 0],
      ArrowUp: [0, 0, -step],
      ArrowDown: [0, 0, step],
      PageUp: [0, step, 0],
      PageDown: [0, -step, 0],
    };
    if (way[e.key]) {
      e.preventDefault();
      e.stopPropagation();
      const chosen = ids.includes(point.id) ? ids : [point.id];
      if (!ids.includes(point.id)) selectPoint(path.id, point.id);
      remember(chosen);
      moveBy(way[e.key], `keys ${point.id}`);
    } else if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      e.stopPropagation();
      dispatch(removePoints, { path: path.id, ids: ids.includes(point.id) ? [...ids] : [point.id] });
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      selectPoint(path.id, point.id, e.shiftKey);
    }
  };
  const take = (point: PathPoint) => void (ids.includes(point.id) || selectPoint(path.id, point.id));
  return { grab, take, grabArm, grabHandle, onKeyDown };
}
