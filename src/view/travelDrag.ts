import type { Mesh } from 'three';
import { Vector3 } from 'three';
import type { Travel } from '@/core/arrange/travel/schema';
import type { Vec3 } from '@/core/math/vec3';
import { metresPerUv } from '@/core/mesh/chart/measure';
import type { TravelValues } from '@/store/commands/travel';
import { engine } from '@/store/engine';
import { currentView, type ViewHandle } from '@/view/handle';
import { pickPlace } from './pick';
import { toScreen } from './project';

/** Sliding a whole arrangement by hand: from the pointer to how far it has gone. */

/** What a travel becomes with the pointer at a pixel; null where that says nothing. */
export type TravelDrag = (x: number, y: number, snap: boolean) => TravelValues | null;

const AXES: Record<Travel['axis'], Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** A drag that begins at a pixel; null where there is nothing to drag over. */
export function dragTravel(travel: Travel, x: number, y: number): TravelDrag | null {
  const view = currentView();
  if (!view) return null;
  if (travel.way === 'turn') return turnDrag(view, travel, x, y);
  return travel.way === 'along' ? alongDrag(view, travel, x, y) : overDrag(view, travel, x, y);
}

/** One step of the arrow keys. */
export function stepTravel({ way, u, along, turn }: Travel, steps: number): TravelValues {
  if (way === 'turn') return { turn: { byDeg: turn.byDeg + steps * 5 } };
  const by = (from: number) => Number((from + steps * 0.1).toFixed(4));
  return way === 'along' ? { along: { by: by(along.by) } } : { u: { by: by(u.by) } };
}

const rounded = (by: number, snap: boolean): number =>
  snap ? Math.round(by * 2) / 2 : Number(by.toFixed(4));

function overDrag(view: ViewHandle, { surface, u, v }: Travel, x: number, y: number): TravelDrag | null {
  const uvAt = (px: number, py: number) => {
    const place = pickPlace(view, px, py);
    return place?.surface === surface ? place.uv : undefined;
  };
  const from = uvAt(x, y);
  const metres = from && surface !== null && metresOf(view, surface);
  if (!metres) return null;
  return (px, py, snap) => {
    const to = uvAt(px, py);
    if (!to) return null;
    const [du, dv] = [0, 1].map((k) => (to[k] - from[k]) * metres[k]);
    return { u: { by: rounded(u.by + du, snap) }, v: { by: rounded(v.by + dv, snap) } };
  };
}

/** Metres that u and v measure on a surface as it is drawn. */
function metresOf(view: ViewHandle, surface: string): [number, number] | null {
  let found: Mesh | undefined;
  view.scene.traverseVisible((o) => {
    if (o.userData.surface === surface) found = o as Mesh;
  });
  const { geometry, matrixWorld } = found ?? {};
  const uvs = geometry?.getAttribute('uv');
  if (!geometry || !matrixWorld || !uvs) return null;
  const mesh = {
    positions: geometry.getAttribute('position').array,
    indices: geometry.getIndex()!.array as Uint32Array,
    uvs: uvs.array as Float32Array,
  };
  return metresPerUv(mesh, matrixWorld.getMaxScaleOnAxis());
}

function alongDrag(view: ViewHandle, { path, along }: Travel, x: number, y: number): TravelDrag | null {
  const stroke = path === null ? undefined : engine().state.result.paths.get(path)?.strokes[0];
  if (!stroke) return null;
  const lengthAt = (px: number, py: number): number => {
    let [least, s] = [Infinity, 0];
    for (let i = 0; i + 1 < stroke.s.length; i++) {
      const [a, b] = [i, i + 1].map((k) =>
        toScreen(view, [stroke.position[k * 3], stroke.position[k * 3 + 1], stroke.position[k * 3 + 2]]),
      );
      if (!a.ahead || !b.ahead) continue;
      const [dx, dy] = [b.x - a.x, b.y - a.y];
      const l = dx * dx + dy * dy || 1;
      const t = Math.min(1, Math.max(0, ((px - a.x) * dx + (py - a.y) * dy) / l));
      const away = Math.hypot(a.x + dx * t - px, a.y + dy * t - py);
      if (away < least) [least, s] = [away, stroke.s[i] + (stroke.s[i + 1] - stroke.s[i]) * t];
    }
    return s;
  };
  let [last, gone] = [lengthAt(x, y), 0];
  return (px, py, snap) => {
    const here = lengthAt(px, py);
    let by = here - last;
    // Round a loop the shorter way.
    if (stroke.closed && Math.abs(by) > stroke.length / 2) by -= Math.sign(by) * stroke.length;
    last = here;
    gone += by;
    return { along: { by: rounded(along.by + gone, snap) } };
  };
}

function turnDrag(view: ViewHandle, { centre, axis, turn }: Travel, x: number, y: number): TravelDrag {
  const middle = toScreen(view, centre);
  const towards = view.camera.position.clone().sub(new Vector3(...centre));
  // Against the clock about an axis that points to the eye, and up on the screen is less.
  const sign = towards.dot(new Vector3(...AXES[axis])) >= 0 ? -1 : 1;
  const angleAt = (px: number, py: number) => (Math.atan2(py - middle.y, px - middle.x) * 180) / Math.PI;
  let [last, gone] = [angleAt(x, y), 0];
  return (px, py, snap) => {
    const here = angleAt(px, py);
    gone += ((here - last + 540) % 360) - 180;
    last = here;
    const deg = turn.byDeg + gone * sign;
    return { turn: { byDeg: snap ? Math.round(deg / 15) * 15 : Number(deg.toFixed(2)) } };
  };
}
