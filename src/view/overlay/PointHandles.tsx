'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { PathPoint } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import { movePoints, removePoints, setPoint } from '@/store/commands/paths';
import { dispatch, restGesture, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectPoint, useSelection } from '@/store/selection';
import { INK, LINEN, THREAD_COLORS } from '../colors';
import { dragGesture } from '../dragGesture';
import { useEditedPoints } from '../edited';
import { kept, keptWay, shownPoints } from '../onSurface';
import { pickPlace } from '../pick';
import { snapAt } from '../snap/snap';
import { alongAxis, metresPerPixel, onPlane, toScreen, viewNormal } from '../project';
import { currentView, type ViewHandle } from '@/view/handle';
import { setDragSnap, useView } from '../viewState';
import { Arm } from './knobs';
import { PointDials } from './PointDials';
import { SelectionHandles } from './SelectionHandles';
import { SnapMark } from './SnapMark';
import { useFrames } from './useFrames';

/** How far out the arms of the selected point reach, pixels. */
const ARM = 46;
const AXES: { name: string; axis: Vec3; color: string }[] = [
  { name: 'X', axis: [1, 0, 0], color: THREAD_COLORS.plum },
  { name: 'Y', axis: [0, 1, 0], color: THREAD_COLORS.moss },
  { name: 'Z', axis: [0, 0, 1], color: THREAD_COLORS.woad },
];

const round = (v: number) => Number(v.toFixed(6));
const plus = (a: Vec3, b: Vec3): Vec3 => [round(a[0] + b[0]), round(a[1] + b[1]), round(a[2] + b[2])];
const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** Follows the pointer from a press to its release; Escape takes the drag back. */
function followPointer(
  e: PointerEvent<Element>,
  key: string,
  onMove: (x: number, y: number, m: globalThis.PointerEvent) => void,
  onEnd?: () => void,
): void {
  e.preventDefault();
  e.stopPropagation();
  const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
  let moved = false;
  dragGesture(
    e,
    key,
    (m) => {
      if (!moved && Math.hypot(m.clientX - e.clientX, m.clientY - e.clientY) < 3) return;
      moved = true;
      onMove(m.clientX - box.left, m.clientY - box.top, m);
    },
    onEnd,
  );
}

/** The plane in which a dragged thing moves: the ground's, or the view's own (Alt, and seen from a side). */
function dragPlane(view: ViewHandle, inView: boolean): Vec3 {
  const n = viewNormal(view.camera);
  const { mode } = useView.getState();
  return inView || mode === 'front' || mode === 'side' || Math.abs(n[1]) < 0.08 ? n : [0, 1, 0];
}

/** The points of the edited path over the scene: move, select, and steer by pointer and keyboard. */
export function PointHandles() {
  const view = useFrames();
  const path = useEditedPoints();
  const dragSnap = useView((s) => s.dragSnap);
  const tool = useView((s) => s.tool);
  const selected = useSelection((s) => s.points);
  const active = useSelection((s) => s.arrangement);
  const thread = useDocument((s) => s.scene.arrangements.find((a) => a.id === active)?.thread) ?? 'madder';
  const result = useEngine((s) => (path ? s.result.paths.get(path.id) : undefined));
  const readOnly = useDocument((s) => s.readOnly !== null);
  const start = useRef<Record<string, Vec3>>({});
  if (!view || !path || !path.visible || tool !== 'pick' || readOnly || !result) return null;
  // Those on a surface are dragged over it; what is kept of them is where that is at rest.
  const points = shownPoints(path, result);
  const pinned = path.source.on !== undefined;
  const ids = selected?.path === path.id ? selected.ids : [];
  const color = THREAD_COLORS[thread];
  const only = ids.length === 1 ? points.find((p) => p.id === ids[0]) : undefined;

  /** Moves all selected points by the way that one of them went. */
  const moveBy = (by: Vec3, key: string) =>
    dispatch(
      movePoints,
      {
        path: path.id,
        to: Object.fromEntries(Object.entries(start.current).map(([id, p]) => [id, kept(path, plus(p, by))])),
      },
      key,
    );
  const remember = (chosen: string[]) => {
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
        if (at) moveBy(minus(at, from), key);
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
      dispatch(removePoints, { path: path.id, ids: ids.includes(point.id) ? ids : [point.id] });
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      selectPoint(path.id, point.id, e.shiftKey);
    }
  };
  const screen = points.map((p) => toScreen(view, p.position));
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="group"
      aria-label={`Points of ${path.name}`}
    >
      {only?.kind === 'free' &&
        (['handleIn', 'handleOut'] as const).map((which) => {
          const a = toScreen(view, only.position);
          const b = toScreen(view, plus(only.position, only[which]));
          if (!a.ahead || !b.ahead) return null;
          return (
            <g key={which}>
              <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke={INK} strokeWidth={1.4} />
              <rect
                x={b.x - 5}
                y={b.y - 5}
                width={10}
                height={10}
                rx={2}
                transform={`rotate(45 ${b.x} ${b.y})`}
                fill={LINEN}
                stroke={INK}
                strokeWidth={1.6}
                className="pointer-events-auto cursor-move touch-none"
                role="button"
                aria-label={which === 'handleIn' ? 'Handle before' : 'Handle after'}
                onPointerDown={grabHandle(only, which)}
              />
            </g>
          );
        })}
      {only &&
        !pinned &&
        AXES.map(({ name, axis, color: dye }) => {
          const a = toScreen(view, only.position);
          const reach = metresPerPixel(view, only.position) * ARM;
          const b = toScreen(view, plus(only.position, axis.map((v) => v * reach) as Vec3));
          if (!a.ahead || !b.ahead || Math.hypot(b.x - a.x, b.y - a.y) < 12) return null;
          return (
            <Arm
              key={name}
              label={`Move along ${name}`}
              from={a}
              to={b}
              dye={dye}
              letter={name}
              onPress={grabArm(only, axis)}
            />
          );
        })}
      {only && <PointDials view={view} path={path.id} point={only} color={color} />}
      {ids.length > 1 && <SelectionHandles view={view} path={path} shown={points} ids={ids} color={color} />}
      {dragSnap && <SnapMark view={view} snap={dragSnap} />}
      {points.map((point, i) => {
        const at = screen[i];
        if (!at.ahead) return null;
        const on = ids.includes(point.id);
        return (
          <g
            key={point.id}
            role="button"
            tabIndex={0}
            aria-label={`Point ${i + 1}`}
            aria-pressed={on}
            className="pointer-events-auto cursor-move touch-none outline-none [&:focus-visible>circle:first-child]:stroke-2"
            onPointerDown={grab(point)}
            onKeyDown={onKeyDown(point)}
            onKeyUp={restGesture}
          >
            <circle cx={at.x} cy={at.y} r={11} fill="transparent" stroke={INK} strokeWidth={0} />
            {point.kind === 'corner' ? (
              <rect
                x={at.x - 5.5}
                y={at.y - 5.5}
                width={11}
                height={11}
                rx={2}
                fill={on ? color : LINEN}
                stroke={on ? LINEN : color}
                strokeWidth={1.8}
              />
            ) : (
              <ellipse
                cx={at.x}
                cy={at.y}
                rx={on ? 8 : 6.5}
                ry={on ? 6.5 : 5.2}
                fill={on ? color : LINEN}
                stroke={on ? LINEN : color}
                strokeWidth={1.8}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}
