import { cross, dot, normalize, type Vec3 } from '../../math/vec3';
import type { Fall, Faller } from './fall';
import { highest, type Slopes } from './highest';
import { heldBy } from './heldBy';
import { ask, said, type Hold } from './hold';

/** A thing that may tilt while its foot stays on its line. */
export interface Tilting {
  faller: Faller;
  /** Rows of the 3 × 3 matrix from its own space to the scene, about its foot, before it tilts. */
  m: ArrayLike<number>;
  /** Unit: what tilts onto the normal that is looked for. */
  up: Vec3;
}

/** No pose is looked for that is lower than the one found by less than this, metres. */
const GAIN = 1e-10;
const ROUNDS = 40;
/** The furthest that a tilt may change in one step, as a tangent. */
const STEP = 0.5;
/** It never lies further over than this, measured from its way of falling (cosine). */
const STEEPEST = 0.1;
/** How far over it is tried whether it tips, as a tangent. */
const TIP = 0.2;

/**
 * Finds how a thing rests: of the tilts at which it enters nothing, the one with its foot lowest along the direction.
 * It is let down until it touches, and tilts about what it touches until something else holds it too, as often as that
 * lowers it: in the end three points hold it, or two and a crest. Each round asks the meshes once what is met first
 * and then finds the lowest tilt over all that was met so far (cutting planes: Kelley 1960).
 * @param start unit normal to begin from @param known holds of which it is known that they are beneath it
 * @returns the unit normal that its up becomes, a local lowest one; from a tilt that only balances it tips over to the
 * lower side
 */
export function restingNormal(fall: Fall, thing: Tilting, start: Vec3, known: readonly Hold[] = []): Vec3 {
  let best = climb(fall, thing, start, known);
  for (const n of tips(best, thing, fall)) {
    const other = climb(fall, thing, n, []);
    if (other.room > best.room + 1e-9) best = other;
  }
  return best.normal;
}

interface Pose {
  normal: Vec3;
  room: number;
  holds: readonly Hold[];
}

function climb(fall: Fall, thing: Tilting, start: Vec3, known: readonly Hold[]): Pose {
  const m = new Float64Array(9);
  let holds = [...known];
  let best: Pose = { normal: start, room: -Infinity, holds };
  let normal = holds.length > 2 ? lowest(fall, thing, start, holds, STEP).normal : start;
  let step = STEP;
  for (let round = 0; round < ROUNDS && step > 1e-9; round++) {
    tilted(thing, normal, m);
    let known = Infinity;
    for (const h of holds) if (roomOf(h, m, fall) < known && said.reaches) known = said.room;
    const room = fall.room(thing.faller, m, known);
    if (room === Infinity) return { normal: start, room, holds: [] };
    const hold = heldBy(fall, thing.faller, m);
    if (room > best.room) {
      // What leaves less room than there is has ended before it gets there.
      holds = holds.filter((h) => roomOf(h, m, fall) > room - 1e-9);
      if (best.room > -Infinity) step = Math.min(STEP, step * 2);
      best = { normal, room, holds };
    } else step /= 2;
    if (hold) holds.push(hold);
    let next = lowest(fall, thing, best.normal, holds, step);
    if (!(next.room > best.room + GAIN)) {
      // Held by what has ended before it gets there, perhaps: without that it may go on.
      tilted(thing, best.normal, m);
      const real = holds.filter((h) => roomOf(h, m, fall) > best.room + 1e-9 || said.reaches);
      if (real.length === holds.length) break;
      holds = real;
      next = lowest(fall, thing, best.normal, holds, step);
      if (!(next.room > best.room + GAIN)) break;
    }
    normal = next.normal;
  }
  return { ...best, holds };
}

/** The room that a hold leaves; Infinity where it holds nothing. */
function roomOf(hold: Hold, m: ArrayLike<number>, fall: Fall): number {
  ask(hold, m, fall.frame);
  return said.room === said.room ? said.room : Infinity;
}

const MANY = 64;
const slopes: Slopes = {
  count: 0,
  room: new Float64Array(MANY),
  x: new Float64Array(MANY),
  y: new Float64Array(MANY),
};

const here = new Float64Array(9);

/** The tilt about `normal`, no further than `step`, that leaves the most room over all holds, and that room. */
function lowest(
  fall: Fall,
  thing: Tilting,
  normal: Vec3,
  holds: Hold[],
  step: number,
): { normal: Vec3; room: number } {
  let at = normal;
  let most = slopesAt(fall, thing, at, holds);
  let reach = step;
  // Rooms bend with the tilt: each step is taken as if they did not, and shortened where it fails.
  for (let k = 0; k < 12; k++) {
    const to = highest(slopes, reach);
    if (!(to.room > most + GAIN / 10) || to.room === Infinity) break;
    const n = tiltedBy(at, to.x, to.y);
    const isFar = dot(n, normal) * Math.sqrt(1 + 2 * step * step) < 1;
    const room = isFar || -dot(n, fall.direction) < STEEPEST ? -Infinity : leastRoom(fall, thing, n, holds);
    if (room > most) {
      at = n;
      most = slopesAt(fall, thing, at, holds);
    } else reach = Math.max(Math.abs(to.x), Math.abs(to.y)) / 4;
  }
  return { normal: at, room: most };
}

function leastRoom(fall: Fall, thing: Tilting, normal: Vec3, holds: Hold[]): number {
  tilted(thing, normal, here);
  let least = Infinity;
  for (const h of holds) least = Math.min(least, roomOf(h, here, fall));
  return least;
}

const e: Vec3 = [0, 0, 0];
const f: Vec3 = [0, 0, 0];

/** Two directions square to a normal and to each other. */
function across(n: Vec3): void {
  const flat = Math.abs(n[1]) < 0.9;
  const l = flat ? Math.sqrt(n[0] * n[0] + n[2] * n[2]) : Math.sqrt(n[0] * n[0] + n[1] * n[1]);
  e[0] = flat ? -n[2] / l : n[1] / l;
  e[1] = flat ? 0 : -n[0] / l;
  e[2] = flat ? n[0] / l : 0;
  f[0] = n[1] * e[2] - n[2] * e[1];
  f[1] = n[2] * e[0] - n[0] * e[2];
  f[2] = n[0] * e[1] - n[1] * e[0];
}

function tiltedBy(n: Vec3, x: number, y: number): Vec3 {
  across(n);
  return normalize([n[0] + e[0] * x + f[0] * y, n[1] + e[1] * x + f[1] * y, n[2] + e[2] * x + f[2] * y]);
}

/** Writes how the room of each hold changes with a tilt about `n`. @returns the least room */
function slopesAt(fall: Fall, thing: Tilting, n: Vec3, holds: readonly Hold[]): number {
  tilted(thing, n, here);
  across(n);
  const { up } = thing;
  // A tilt of the normal by e turns about n × e, and a little about the normal, since its up goes the shortest way.
  const k = 1 / (1 + dot(up, n));
  const c = cross(up, n);
  const spinE = dot(e, c) * k;
  const spinF = dot(f, c) * k;
  const aboutE = cross(n, e);
  const aboutF = cross(n, f);
  let least = Infinity;
  slopes.count = 0;
  for (const h of holds) {
    ask(h, here, fall.frame);
    const { room, place: p, slope: w } = said;
    if (!(room < Infinity)) continue;
    least = Math.min(least, room);
    if (slopes.count === MANY) continue;
    const qx = p[1] * w[2] - p[2] * w[1];
    const qy = p[2] * w[0] - p[0] * w[2];
    const qz = p[0] * w[1] - p[1] * w[0];
    const spun = qx * n[0] + qy * n[1] + qz * n[2];
    slopes.room[slopes.count] = room;
    slopes.x[slopes.count] = qx * aboutE[0] + qy * aboutE[1] + qz * aboutE[2] - spun * spinE;
    slopes.y[slopes.count++] = qx * aboutF[0] + qy * aboutF[1] + qz * aboutF[2] - spun * spinF;
  }
  return least;
}

/** Rows of the thing's matrix when its up has become a normal, by the shortest way. */
function tilted({ m, up }: Tilting, n: Vec3, out: Float64Array): void {
  const cx = up[1] * n[2] - up[2] * n[1];
  const cy = up[2] * n[0] - up[0] * n[2];
  const cz = up[0] * n[1] - up[1] * n[0];
  const k = 1 / (1 + dot(up, n));
  for (let j = 0; j < 3; j++) {
    const x = m[j];
    const y = m[j + 3];
    const z = m[j + 6];
    const ax = cy * z - cz * y;
    const ay = cz * x - cx * z;
    const az = cx * y - cy * x;
    out[j] = x + ax + (cy * az - cz * ay) * k;
    out[j + 3] = y + ay + (cz * ax - cx * az) * k;
    out[j + 6] = z + az + (cx * ay - cy * ax) * k;
  }
}

/** Starts to both sides of a pose that nothing keeps from tipping over; none where it stands. */
function tips({ normal, room, holds }: Pose, thing: Tilting, fall: Fall): Vec3[] {
  if (!Number.isFinite(room)) return [];
  tilted(thing, normal, here);
  slopesAt(
    fall,
    thing,
    normal,
    holds.filter((h) => roomOf(h, here, fall) < room + 1e-7),
  );
  const way = freeWay();
  if (!way) return [];
  const [x, y] = way;
  return [tiltedBy(normal, x * TIP, y * TIP), tiltedBy(normal, -x * TIP, -y * TIP)];
}

/** The direction in which none of the slopes falls, unit; null where one does in each. */
function freeWay(): [number, number] | null {
  const ways: [number, number][] = [];
  for (let k = 0; k < slopes.count; k++) {
    const [x, y] = [slopes.x[k], slopes.y[k]];
    const l = Math.sqrt(x * x + y * y);
    if (l > 1e-4) ways.push([x / l, y / l]);
  }
  if (ways.length === 0) return [1, 0];
  // Slopes of one half plane leave its boundary free: square to the one that has all others to one side.
  for (const [u, v] of ways) if (ways.every(([p, q]) => u * q - v * p > -1e-3)) return [-v, u];
  return null;
}
