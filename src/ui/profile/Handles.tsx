import type { KeyboardEvent, PointerEvent } from 'react';
import { nearestOnPath } from '@/core/curve/nearest';
import type { PointsPath } from '@/core/curve/schema';
import type { DrawnStroke } from '@/core/evaluate/drawnPath';
import type { ProfilePlane } from '@/core/mesh/make/profilePlane';
import { addPointAt, movePoints, removePoints, setPointKind } from '@/store/commands/paths';
import { dispatch, restGesture } from '@/store/document';
import { dragGesture } from '@/view/dragGesture';
import { curveOf } from '@/view/snap/candidates';
import { arrowMetres } from '../flat/dragSvg';
import { flatOf, placedAt, type ProfilePlan } from './profile';

/** A profile of fewer points encloses nothing. */
const LEAST = 3;

/** The points of a profile, to be dragged; the line between them, to be clicked for another one. */
export function Handles(props: {
  path: PointsPath;
  stroke: DrawnStroke;
  plane: ProfilePlane;
  plan: ProfilePlan;
  held: string | null;
  onHold: (id: string | null) => void;
  onDrag: (dragged: boolean) => void;
}) {
  const { path, stroke, plane, plan, held, onHold, onDrag } = props;
  const { points } = path.source;
  const put = (id: string, at: readonly [number, number], key: string) => {
    const point = points.find((p) => p.id === id)!;
    dispatch(movePoints, { path: path.id, to: { [id]: placedAt(point.position, plane, at) } }, key);
  };
  const grab = (id: string) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    (e.currentTarget as SVGElement).focus();
    onHold(id);
    onDrag(true);
    const key = `profile ${path.id} ${id}`;
    const [x, y] = flatOf(points.find((p) => p.id === id)!.position, plane);
    dragGesture(
      e,
      key,
      (m) => put(id, [x + (m.clientX - e.clientX) / plan.k, y - (m.clientY - e.clientY) / plan.k], key),
      () => onDrag(false),
    );
  };
  const keys = (id: string) => (e: KeyboardEvent) => {
    const point = points.find((p) => p.id === id)!;
    if (e.key === 'Delete' || e.key === 'Backspace') {
      if (points.length > LEAST) dispatch(removePoints, { path: path.id, ids: [id] });
    } else if (e.key === 'Enter' || e.key === ' ')
      dispatch(setPointKind, { path: path.id, id, kind: point.kind === 'corner' ? 'smooth' : 'corner' });
    else {
      // A tenth of what the arrow keys do elsewhere: profiles are small.
      const step = arrowMetres(e) / 10;
      if (step === 0) return;
      const [x, y] = flatOf(point.position, plane);
      const across = e.key === 'ArrowLeft' || e.key === 'ArrowRight';
      put(id, across ? [x + step, y] : [x, y + step], `profile keys ${path.id} ${id}`);
    }
    e.preventDefault();
    e.stopPropagation();
  };
  const insert = (e: PointerEvent<SVGPathElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const at = placedAt(points[0].position, plane, plan.back(e.clientX - box.left, e.clientY - box.top));
    const { s, segment, t } = nearestOnPath(curveOf(stroke), at);
    const made = dispatch(addPointAt, { path: path.id, s, segment, t });
    if (made) onHold(made);
  };
  const line = Array.from({ length: stroke.position.length / 3 }, (_, i) =>
    plan.at(...flatOf(stroke.position.subarray(i * 3, i * 3 + 3), plane)).join(' '),
  ).join('L');
  return (
    <>
      <path
        d={`M${line}${path.closed ? 'Z' : ''}`}
        fill="none"
        stroke="transparent"
        strokeWidth={12}
        className="cursor-copy"
        data-testid="profile-line"
        onPointerDown={insert}
      />
      {points.map((p, i) => {
        const [x, y] = plan.at(...flatOf(p.position, plane));
        const look = {
          role: 'button',
          'aria-label': `Point ${i + 1} of the profile, ${p.kind}`,
          fill: p.id === held ? 'var(--color-madder)' : 'var(--paper)',
          stroke: 'var(--text)',
          strokeWidth: 1.5,
          tabIndex: 0,
          className: 'cursor-move touch-none outline-none focus-visible:stroke-[3px]',
          onPointerDown: grab(p.id),
          onFocus: () => onHold(p.id),
          onKeyDown: keys(p.id),
          onKeyUp: restGesture,
        };
        return p.kind === 'corner' ? (
          <rect key={p.id} x={x - 4} y={y - 4} width={8} height={8} {...look} />
        ) : (
          <circle key={p.id} cx={x} cy={y} r={4.5} {...look} />
        );
      })}
    </>
  );
}
