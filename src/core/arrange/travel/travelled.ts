import { squareTo } from '../../curve/reflect';
import { quatBetween, quatFromUpFront, quatMultiply, quatRotate, writeUnitQuat } from '../../math/quat';
import { dot, sub, type Vec3 } from '../../math/vec3';
import { firstHit, nearestPlace, noHit } from '../../mesh/bvhQuery';
import { leaning } from '../../mesh/pin';
import { normalOn, placeOn, type TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Say } from '../say';
import type { Sites } from '../sites';
import { movedOver, type Pose } from '../steps/onSurface';
import { alongPath } from './alongPath';
import { overSurface } from './overSurface';
import type { Travel } from './schema';
import { turnedAbout } from './turned';
import { pointOf, type Moved, type Places, type Way } from './way';

/**
 * Places of a recipe after all of them have gone on together: what is settled there stands, lands and collides as if
 * its places had been there from the beginning. Where something cannot be done it is said, and all stay.
 */
export function travelled(
  travel: Travel,
  stretches: readonly Sites[],
  context: ArrangeContext,
  say: Say,
): readonly Sites[] {
  const before = stretches.map(standing);
  const places: Places = {
    count: before.reduce((sum, s) => sum + s.count, 0),
    position: new Float64Array(before.reduce((sum, s) => sum + s.count * 3, 0)),
  };
  let start = 0;
  for (const s of before) {
    places.position.set(s.position, start * 3);
    start += s.count;
  }
  const way = wayOf(travel, places, context, say);
  if (!way) return stretches;
  const surface = travel.surface === null ? undefined : context.surface?.(travel.surface);
  const go = travel.way !== 'over' && surface ? keptOn(surface, places, way) : way;
  let first = 0;
  return stretches.map((sites, k) => {
    const moved = gone(sites, before[k], go, first, travel.steers, surface);
    first += before[k].count;
    return moved;
  });
}

/** How places stand before they go. */
interface Standing {
  count: number;
  position: Float64Array;
  front: Float64Array;
  up: Float64Array;
  /** 1 where there is nothing. */
  off: Uint8Array;
}

function standing(sites: Sites): Standing {
  const count = sites.slot.length;
  const out: Standing = {
    count,
    position: new Float64Array(count * 3),
    front: new Float64Array(count * 3),
    up: new Float64Array(count * 3),
    off: new Uint8Array(count),
  };
  const pose: Pose = { position: [0, 0, 0], front: [0, 0, 1], up: [0, 1, 0] };
  for (let i = 0; i < count; i++) {
    // Where they have to be asked for, what is in the arrays is nothing.
    const asked = sites.asks && sites.moved ? sites.moved(i, 0, 0, pose) : false;
    if (asked === 'off') out.off[i] = 1;
    for (const name of ['position', 'front', 'up'] as const)
      for (let a = 0; a < 3; a++)
        out[name][i * 3 + a] = asked === true ? pose[name][a] : sites[name][i * 3 + a];
  }
  return out;
}

/** How all go; null, and said, where they cannot. */
function wayOf(travel: Travel, places: Places, context: ArrangeContext, say: Say): Way | null {
  const time = context.time ?? 0;
  if (travel.way === 'turn') return turnedAbout(travel, places, time);
  if (travel.way === 'along') {
    const path = travel.path === null ? undefined : context.path(travel.path);
    if (travel.path === null || !path) say('travel-no-path', {}, 'warning');
    // What is wrong with a path is said by whoever stands on it.
    return path?.ok ? alongPath(travel, path.strokes, places, time) : null;
  }
  const states = travel.surface === null ? undefined : context.surfaceStates?.(travel.surface);
  if (!states) {
    say('travel-no-surface', {}, 'warning');
    return null;
  }
  const way = overSurface(travel, states, places, time);
  if (!way) say('travel-no-uv', { surface: travel.surface! }, 'warning');
  return way;
}

const hit = noHit();

/**
 * A way at whose end each comes back onto a surface, as high over it as it was: straight up or down as it stands, so that
 * what is upright on hills stays on its way as seen from above; to the nearest place where nothing is there.
 */
function keptOn(surface: TriMesh, places: Places, way: Way): Way {
  return (i, lean, out) => {
    const from = pointOf(places, i);
    if (!nearestPlace(surface.tree(), ...from, Infinity, hit)) return way(i, lean, out);
    const was = normalOn(surface, hit.face, hit.u, hit.v);
    const height = dot(sub(from, placeOn(surface, hit.face, hit.u, hit.v)), was);
    if (!way(i, lean, out)) return false;
    const carried = quatRotate(out.turned, was);
    const stood = quatRotate(out.turned, leaning(was, lean));
    const foot = out.position.map((p, a) => p - carried[a] * height) as Vec3;
    if (!straightOn(surface, foot, stood)) nearestPlace(surface.tree(), ...foot, Infinity, hit);
    const is = normalOn(surface, hit.face, hit.u, hit.v);
    const at = placeOn(surface, hit.face, hit.u, hit.v);
    out.position = at.map((p, a) => p + is[a] * height) as Vec3;
    out.turned = quatMultiply(quatBetween(stood, leaning(is, lean)), out.turned);
    return true;
  };
}

const other = noHit();

/** Writes into `hit` where a line through a place meets a surface nearest to it, on either side. */
function straightOn(surface: TriMesh, [x, y, z]: Vec3, [a, b, c]: Vec3): boolean {
  const tree = surface.tree();
  const above = firstHit(tree, x, y, z, a, b, c, 0, Infinity, hit);
  const below = firstHit(tree, x, y, z, -a, -b, -c, 0, above ? hit.t : Infinity, other);
  if (below) Object.assign(hit, other);
  return above || below;
}

/** Sites where a way has brought them. @param first number of the first of them among all places */
function gone(
  sites: Sites,
  { count, position, front, up, off }: Standing,
  way: Way,
  first: number,
  steers: boolean,
  surface: TriMesh | undefined,
): Sites {
  const past = sites.past?.slice() ?? new Uint8Array(count);
  const rotation = sites.rotation?.slice();
  const made = new Float64Array(count);
  const to: Moved = { position: [0, 0, 0], turned: [0, 0, 0, 1], going: [0, 0, 0], made: 0 };
  const read = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];
  for (let i = 0; i < count; i++) {
    if (off[i] || !way(first + i, sites.lean?.(i) ?? 0, to)) {
      past[i] = 1;
      continue;
    }
    position.set(to.position, i * 3);
    // Steered, it goes ahead wherever it goes.
    made[i] = steers ? Math.abs(to.made) : to.made;
    const upright = quatRotate(to.turned, read(up, i));
    const goes = steers && dot(to.going, to.going) > 0;
    const ahead = squareTo(goes ? to.going : quatRotate(to.turned, read(front, i)), upright);
    up.set(upright, i * 3);
    front.set(ahead, i * 3);
    if (!rotation) continue;
    const lay = [0, 1, 2, 3].map((a) => rotation[i * 4 + a]) as [number, number, number, number];
    writeUnitQuat(rotation, i * 4, goes ? quatFromUpFront(upright, ahead) : quatMultiply(to.turned, lay));
  }
  return {
    ...sites,
    made,
    position,
    front,
    up,
    past,
    ...(rotation && { rotation }),
    asks: false,
    // Where masks read a place is where it has come to.
    reads: undefined,
    moved:
      sites.moved && surface
        ? (i, along, side, out) => {
            const [p, ahead, upright] = [read(position, i), read(front, i), read(up, i)];
            const lean = sites.lean?.(i) ?? 0;
            return movedOver(surface, p, ahead, upright, (n) => leaning(n, lean), along, side, out);
          }
        : undefined,
  };
}
