import { nearestOnPath } from '@/core/curve/nearest';
import { samplePath } from '@/core/curve/sample';
import type { DrawnStroke } from '@/core/evaluate/scene';
import { dot, sub, type Vec3 } from '@/core/math/vec3';
import type { Tie } from '@/core/curve/hang/schema';
import { hasPoints, type Path } from '@/core/curve/schema';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { mayBeNear, pickFrustum } from '../near';
import { shownPoints } from '../onSurface';
import { nearestOnScreen, toScreen } from '../project';
import type { ViewHandle } from '@/view/handle';
import { axesNear, type AxisPlace } from './axes';
import { curveOf, placesOn, pointsOn, type SnapPlace } from './candidates';
import { holesNear } from './holes';
import { meshPlacesUnder, type MeshPlace } from './meshPlaces';
import { snapsNear, type OneSlot } from './snapPoints';
import { useSnap } from './snapState';

/** Where something snapped to, and what that is called. */
export interface Snap {
  at: Vec3;
  kind:
    | SnapPlace['kind']
    | MeshPlace['kind']
    | AxisPlace['kind']
    | 'hole'
    | 'snap'
    | 'perpendicular'
    | 'on-path'
    | 'grid'
    | 'angle';
  label: string;
  path?: string;
  point?: number;
  /** What a point that is put there may be connected to. */
  tie?: Extract<Tie, { to: 'slot' }>;
}

/** Pixels within which a place catches. */
const CATCH = 11;
const CATCH_PATH = 7;

export interface SnapAsk {
  x: number;
  y: number;
  /** Where it would be without snapping. */
  free: Vec3 | null;
  /** The point before, for angles and squares. */
  from?: Vec3;
  /** Path and points that are being moved: they are no places to snap to. */
  moving?: { path: string; points: ReadonlySet<number> };
  /** A placed prop that is being moved: nor are its snap points. */
  held?: OneSlot;
  /** Only angles, as Shift asks for. */
  straight?: boolean;
}

/**
 * The place that the pointer means: places on paths first (nearest on the screen), then squares onto a path, its
 * nearest place, directions in 15° steps, the grid. Null: where it is.
 */
export function snapAt(view: ViewHandle, ask: SnapAsk): Snap | null {
  const state = useSnap.getState();
  if (ask.straight && ask.from && ask.free) return straight(ask.from, ask.free);
  if (!state.on) return null;
  let best: { snap: Snap; pixels: number } | null = null;
  const names = named(useDocument.getState().scene.paths);
  const offer = (snap: Snap, within: number) => {
    const p = toScreen(view, snap.at);
    const pixels = Math.hypot(p.x - ask.x, p.y - ask.y);
    if (p.ahead && pixels <= within && (!best || pixels < best.pixels - 0.5)) best = { snap, pixels };
  };
  if (state.snaps)
    for (const { at, tie, label } of snapsNear(view, ask, CATCH))
      offer({ at, kind: 'snap', label, tie }, CATCH);
  if (best) return (best as { snap: Snap }).snap;
  // A line's curve may leave the pieces that it is drawn by, by less than a pixel or two.
  const around = pickFrustum(view, ask.x, ask.y, CATCH * 3);
  const near = ({ position }: DrawnStroke) => mayBeNear(around, position);
  const results = [...engine().state.result.paths.values()].filter(
    (r) => r.ok && names.get(r.id)?.visible && r.strokes.some(near),
  );
  for (const result of results) {
    const path = names.get(result.id)!;
    if (ask.moving?.path !== result.id || !hasPoints(path))
      for (const place of placesOn(result, path.name, state, hasPoints(path))) offer(place, CATCH);
    // Of the path in hand only its other points stay where they are.
    else if (state.points)
      for (const place of pointsOn(
        result,
        path.name,
        shownPoints(path, result).map((p) => p.position),
      ))
        if (!ask.moving.points.has(place.point!)) offer(place, CATCH);
  }
  if (best) return (best as { snap: Snap }).snap;
  const strokes = results
    .filter((r) => r.id !== ask.moving?.path)
    .flatMap((r) => r.strokes.map((stroke) => ({ stroke, path: names.get(r.id)! })));
  if (state.perpendicular && ask.from) {
    for (const { stroke, path } of strokes)
      for (const at of squaresFrom(stroke, ask.from, view, ask))
        offer({ at, kind: 'perpendicular', label: `Square to ${path.name}`, path: path.id }, CATCH);
    if (best) return (best as { snap: Snap }).snap;
  }
  if (state.onPath) {
    for (const { stroke, path } of strokes) {
      const near = nearestOnScreen(view, stroke, ask.x, ask.y);
      if (near.pixels > CATCH_PATH) continue;
      const { position: p } = samplePath(curveOf(stroke), [near.s]);
      offer(
        { at: [p[0], p[1], p[2]], kind: 'on-path', label: `On ${path.name}`, path: path.id },
        CATCH_PATH + 3,
      );
    }
    if (best) return (best as { snap: Snap }).snap;
  }
  if (state.meshes) {
    const within = { parts: state.parts, along: CATCH_PATH };
    const axes = axesNear(view, ask, CATCH, within);
    for (const place of axes) if (place.kind !== 'axis') offer(place, CATCH);
    if (best) return (best as { snap: Snap }).snap;
    for (const place of axes) offer(place, CATCH_PATH);
    for (const { at, kind, label } of holesNear(view, ask.x, ask.y, CATCH)) offer({ at, kind, label }, CATCH);
    for (const place of meshPlacesUnder(view, ask.x, ask.y, state.parts)) offer(place, CATCH);
    if (best) return (best as { snap: Snap }).snap;
  }
  if (!ask.free) return null;
  if (state.angles && ask.from) {
    const angle = straight(ask.from, ask.free);
    const p = angle && toScreen(view, angle.at);
    if (p && p.ahead && Math.hypot(p.x - ask.x, p.y - ask.y) <= 5) return angle;
  }
  if (state.grid && state.gridStep > 0) {
    const k = state.gridStep;
    const on = (v: number) => Number((Math.round(v / k) * k).toFixed(6));
    return { at: [on(ask.free[0]), ask.free[1], on(ask.free[2])], kind: 'grid', label: `Grid ${k} m` };
  }
  return null;
}

let known: { paths: readonly Path[]; named: ReadonlyMap<string, Path> } | null = null;

/** Paths by their ids, made once for as long as they are the same. */
function named(paths: readonly Path[]): ReadonlyMap<string, Path> {
  if (known?.paths !== paths) known = { paths, named: new Map(paths.map((p) => [p.id, p])) };
  return known.named;
}

/** Held to the nearest 15° on the ground as seen from the point before. */
function straight(from: Vec3, to: Vec3): Snap | null {
  const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
  if (Math.hypot(dx, dz) < 1e-6) return null;
  const step = Math.PI / 12;
  const angle = Math.round(Math.atan2(-dz, dx) / step) * step;
  const reach = dx * Math.cos(angle) - dz * Math.sin(angle);
  const deg = Math.round((((angle * 180) / Math.PI) % 360) + 360) % 360;
  return {
    at: [from[0] + Math.cos(angle) * reach, to[1], from[2] - Math.sin(angle) * reach],
    kind: 'angle',
    label: `${deg}°`,
  };
}

/** Places of a stroke near the pointer where the way from a point meets it squarely. */
function squaresFrom(stroke: DrawnStroke, from: Vec3, view: ViewHandle, ask: SnapAsk): Vec3[] {
  const near = nearestOnScreen(view, stroke, ask.x, ask.y);
  if (near.pixels > CATCH * 2) return [];
  const curve = curveOf(stroke);
  const away = (s: number) => {
    const { position: p, tangent: t } = samplePath(curve, [s]);
    return { v: dot(sub([p[0], p[1], p[2]], from), [t[0], t[1], t[2]]), at: [p[0], p[1], p[2]] as Vec3 };
  };
  // Around the pointer's place the way is square where its part along the path changes sign.
  const reach = stroke.length * 0.06;
  const found: Vec3[] = [];
  const steps = 24;
  const hold = (s: number) => (stroke.closed ? s : Math.min(stroke.length, Math.max(0, s)));
  let last = { s: hold(near.s - reach), v: away(hold(near.s - reach)).v };
  for (let i = 1; i <= steps; i++) {
    const s = hold(near.s - reach + (2 * reach * i) / steps);
    const v = away(s).v;
    if (last.v < 0 !== v < 0) {
      let [a, b] = [last.s, s];
      const sign = last.v < 0;
      for (let k = 0; k < 50; k++) {
        const mid = (a + b) / 2;
        if (away(mid).v < 0 === sign) a = mid;
        else b = mid;
      }
      found.push(away((a + b) / 2).at);
    }
    last = { s, v };
  }
  const nearest = nearestOnPath(curve, from);
  return [...found, nearest.position];
}
