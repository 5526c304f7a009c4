import { dot, type Vec3 } from '../../math/vec3';
import type { Fall, Faller } from './fall';
import { heldBy } from './heldBy';
import { highest, type Slopes } from './highest';
import { Holds } from './holds';
import type { Tilt } from './tilt';

/** No pose is looked for that is lower than the one found by less than this, metres. */
const GAIN = 1e-10;
const ROUNDS = 40;
/** The furthest that a tilt may change in one step, as a tangent. */
const STEP = 0.5;
/** It never lies further over than this, measured from its way of falling (cosine). */
const STEEPEST = 0.1;
/** How far over it is tried whether it tips, as a tangent. */
const TIP = 0.2;
/** What is nearer to holding it than this, as a share of its width, is taken up with what holds it. */
const NEAR = 0.1;

/** What meets nearer to its end than this, as a share, may hold it without an end only; so often it goes on without it. */
const END = 1e-6;
const CHANCES = 2;

interface Pose {
  normal: Vec3;
  room: number;
}

const holds = new Holds();

/**
 * Finds how a thing rests: of the tilts at which it enters nothing, the one with its foot lowest along the direction.
 * It is let down until it touches, and tilts about what it touches until something else holds it too, as often as that
 * lowers it: in the end three points hold it, or two and a crest. Each round asks the meshes once what is met first,
 * and what is met soon after, and then finds the lowest tilt over all that was met so far (cutting planes: Kelley 1960).
 * @param tilt of the thing from how it stands before it tilts, in the frame of the fall @param start unit normal to begin
 * from
 * @returns the unit normal that its up becomes, a local lowest one; from a tilt that only balances it tips over to the
 * lower side
 */
export function restingNormal(fall: Fall, faller: Faller, tilt: Tilt, start: Vec3): Vec3 {
  let best = climb(fall, faller, tilt, start);
  for (const n of tips(best, tilt)) {
    const other = climb(fall, faller, tilt, n);
    if (other.room > best.room + 1e-9) best = other;
  }
  return best.normal;
}

/** The lowest tilt that is reached from one; the holds that it rests on are left in `holds`. */
function climb(fall: Fall, faller: Faller, tilt: Tilt, start: Vec3): Pose {
  holds.count = 0;
  let best: Pose = { normal: start, room: -Infinity };
  let normal = start;
  let step = STEP;
  let chances = CHANCES;
  for (let round = 0; round < ROUNDS && step > 1e-9; round++) {
    tilt.to(normal);
    // What comes to hold it later is mostly near already, and to look for what is near takes three times as long.
    const room = fall.room(faller, tilt.m, leastReached(tilt), round === 0 ? NEAR : 0);
    if (room === Infinity) return { normal: start, room };
    if (room > best.room) {
      // What leaves less room than there is has ended before it gets there.
      holds.keep((k) => holds.room[k] > room - 1e-9);
      if (best.room > -Infinity) step = Math.min(STEP, step * 2);
      best = { normal, room };
    } else step /= 2;
    heldBy(fall, faller, tilt.m, holds);
    let next = lowest(fall, tilt, best.normal, step);
    if (!(next.room > best.room + GAIN)) {
      // Held by what has ended before it gets there, perhaps, or ends just there: without that it may go on. What does
      // hold it is met again.
      const least = chances-- > 0 ? END : 0;
      tilt.to(best.normal);
      holds.look(tilt);
      const before = holds.count;
      holds.keep(
        (k) => holds.room[k] > best.room + 1e-9 || (least > 0 ? holds.within(k) > least : holds.reaches(k)),
      );
      if (holds.count === before) break;
      next = lowest(fall, tilt, best.normal, step);
      if (!(next.room > best.room + GAIN)) break;
    }
    normal = next.normal;
  }
  return best;
}

/** The least room of those holds that really meet. */
function leastReached(tilt: Tilt): number {
  holds.look(tilt);
  let least = Infinity;
  for (let k = 0; k < holds.count; k++) if (holds.room[k] < least && holds.reaches(k)) least = holds.room[k];
  return least;
}

/** The tilt about `normal`, no further than `step`, that leaves the most room over all holds, and that room. */
function lowest(fall: Fall, tilt: Tilt, normal: Vec3, step: number): Pose {
  tilt.to(normal);
  let at = normal;
  let most = holds.look(tilt);
  let reach = step;
  // Rooms bend with the tilt: each step is taken as if they did not, and shortened where it fails.
  for (let k = 0; k < 12; k++) {
    const to = highest(holds, reach);
    if (!(to.room > most + GAIN / 10) || to.room === Infinity) break;
    const n = tilt.further(to.x, to.y);
    const isFar = dot(n, normal) * Math.sqrt(1 + 2 * step * step) < 1;
    let room = -Infinity;
    if (!isFar && -dot(n, fall.direction) >= STEEPEST) {
      tilt.to(n);
      room = holds.look(tilt);
    }
    if (room > most) {
      at = n;
      most = room;
      continue;
    }
    reach = Math.max(Math.abs(to.x), Math.abs(to.y)) / 4;
    tilt.to(at);
    holds.look(tilt);
  }
  return { normal: at, room: most };
}

/** Starts to both sides of a pose that nothing keeps from tipping over; none where it stands. */
function tips({ normal, room }: Pose, tilt: Tilt): Vec3[] {
  if (!Number.isFinite(room)) return [];
  tilt.to(normal);
  holds.look(tilt);
  holds.keep((k) => holds.room[k] < room + 1e-7);
  const way = freeWay(holds);
  if (!way) return [];
  const [x, y] = way;
  return [tilt.further(x * TIP, y * TIP), tilt.further(-x * TIP, -y * TIP)];
}

/** The direction in which none of the slopes falls, unit; null where one does in each. */
function freeWay(slopes: Slopes): [number, number] | null {
  const ways: [number, number][] = [];
  for (let k = 0; k < slopes.count; k++) {
    const [x, y] = [slopes.x[k], slopes.y[k]];
    const l = Math.sqrt(x * x + y * y);
    if (l > 1e-4) ways.push([x / l, y / l]);
  }
  if (ways.length === 0) return [1, 0];
  // Slopes of one half plane leave its boundary free: square to the one that has all others to one side.
  for (const [u, v] of ways) if (ways.every(([p, q]) => u * q - v * p > -1e-4)) return [-v, u];
  return null;
}
