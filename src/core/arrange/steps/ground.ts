import { channel, randomBase, randomOf } from '../../math/random';
import { quatRotate, writeQuatFromUpFront, type Quat } from '../../math/quat';
import { cross, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { acos, hypot } from '../../math/portable';
import { newPile, type Pile } from '../../mesh/pile';
import type { PropShape } from '../../mesh/support';
import { STATE, type Finding, type FindingKind, type Placements } from '../result';
import type { CompiledPath } from '../../curve/compile';
import { samplePath } from '../../curve/sample';
import type { ArrangeContext } from '../context';
import type { Facings } from './facing';
import { drop, planeUnder, reachOf } from './groundContact';
import { floorProbe, landing, nearest, solidsOf, surfaceProbe } from './groundProbe';
import type { Ground } from './groundSchema';

const SINK = channel('ground.sink');
/** Surfaces met at less than this (sine of the angle) are met edge on. */
const EDGE_ON = 0.035;

/** One slot as it stands before it meets the ground. */
interface Standing {
  row: number;
  slot: number;
  /** Its unit, perpendicular front and up before it leans, in row `r` of these. */
  frames: Facings;
  r: number;
  /** Metres above the ground, along its up once it leans. */
  lift: number;
  /** Writes its rotation for frames in row 0 of other ones. */
  orient: (frames: Facings, r: number) => void;
}

/** The ground step of one arrangement, and what it found. */
export interface GroundStep {
  settle(out: Placements, standing: Standing): void;
  findings(node: string): Finding[];
}

/**
 * Prepares the step. @param shapes of the props that the placements count; undefined where a mesh is not at hand
 * @returns null where nothing is to be done
 */
export function groundStep(
  ground: Ground,
  context: ArrangeContext,
  seed: number,
  shapes: (PropShape | undefined)[],
): GroundStep | null {
  if (ground.mode === 'none') return null;
  const solids = solidsOf(ground, context);
  const gone = ground.surfaces.filter((id) => !context.surface?.(id));
  const sinkBase = randomBase(seed, SINK);
  const [sinkLow, sinkHigh] = [Math.min(...ground.sink), Math.max(...ground.sink)];
  const missed: number[] = [];
  let edgeOn = 0;
  const typed = normalize(ground.typed, [0, -1, 0]);
  const surfaces = surfaceProbe(solids);
  const floor = floorProbe(ground.floor);
  const pile = stackOf(ground, typed, shapes);

  const directionOf = (out: Placements, s: Standing): Vec3 => {
    const { up } = s.frames;
    const o = s.r;
    if (ground.direction === 'path') return [-up[o], -up[o + 1], -up[o + 2]];
    if (ground.direction === 'typed') return typed;
    if (ground.direction === 'prop') {
      const y = quatRotate([...out.rotation.subarray(s.row * 4, s.row * 4 + 4)] as Quat, [0, 1, 0]);
      return [-y[0], -y[1], -y[2]];
    }
    return [0, -1, 0];
  };

  const settle = (out: Placements, s: Standing): void => {
    const fellows = out.state[s.row] === STATE.placed ? pile : null;
    touchDown(out, s, fellows);
    const shape = shapes[out.prop[s.row]];
    if (fellows && shape && out.state[s.row] === STATE.placed) fellows.add(standing(out, s.row, shape));
  };

  const touchDown = (out: Placements, s: Standing, fellows: Pile | null): void => {
    const at: Vec3 = [out.position[s.row * 3], out.position[s.row * 3 + 1], out.position[s.row * 3 + 2]];
    const shape = shapes[out.prop[s.row]];
    let direction = ground.mode === 'hug' ? ([0, -1, 0] as Vec3) : directionOf(out, s);
    let probe = surfaces;
    let meeting =
      ground.mode === 'hug' ? nearest(solids, at) : landing(surfaces, at, direction, ground.above);
    if (ground.mode === 'hug' && meeting)
      direction = [-meeting.normal[0], -meeting.normal[1], -meeting.normal[2]];
    if (!meeting && fellows && shape) {
      const room = fellows.room(standing(out, s.row, shape));
      if (room < Infinity) {
        for (let a = 0; a < 3; a++) out.position[s.row * 3 + a] += direction[a] * room;
        return liftOnly(out, s);
      }
    }
    if (!meeting) {
      missed.push(s.slot);
      if (ground.missed === 'leave-out' && out.state[s.row] === STATE.placed) out.state[s.row] = STATE.missed;
      if (ground.missed !== 'floor') return liftOnly(out, s);
      probe = floor;
      direction = [0, -1, 0];
      meeting = { at: [at[0], ground.floor, at[2]], normal: [0, 1, 0] };
    }
    const { normal: n } = meeting;
    const facing = -(n[0] * direction[0] + n[1] * direction[1] + n[2] * direction[2]);
    if (facing < EDGE_ON) edgeOn++;
    const under =
      ground.contact === 'footprint' && shape
        ? planeUnder(out, s.row, shape, meeting.at, direction, probe)
        : null;
    const up = lean(s, under ?? n, ground);
    const back = ground.contact === 'foot' || !shape ? 0 : reachOf(shape, out, s.row);
    let down = 0;
    if (back > 0) {
      const points = ground.contact === 'footprint' ? shape!.base : shape!.outermost;
      down = drop(out, s.row, shape!, points, meeting.at, direction, probe, back + ground.above);
    }
    const sink = sinkLow === sinkHigh ? sinkLow : sinkLow + (sinkHigh - sinkLow) * randomOf(sinkBase, s.slot);
    for (let a = 0; a < 3; a++) out.position[s.row * 3 + a] = meeting.at[a] + direction[a] * (down + sink);
    // On its fellows it rests exactly; it is they that keep it from the ground.
    const room = fellows && shape ? fellows.room(standing(out, s.row, shape)) : Infinity;
    for (let a = 0; a < 3; a++)
      out.position[s.row * 3 + a] += direction[a] * Math.min(0, room) + up[a] * s.lift;
  };

  return {
    settle,
    findings(node) {
      const say = (kind: FindingKind, detail: Finding['detail'], slots?: number[]): Finding => ({
        kind,
        severity: kind === 'surface-missing' || kind === 'no-ground' ? 'error' : 'warning',
        node,
        detail,
        ...(slots && { slots: slots.slice(0, 1000) }),
      });
      const out: Finding[] = [];
      if (gone.length > 0) out.push(say('surface-missing', { surface: gone[0] }));
      else if (solids.length === 0) out.push(say('no-ground', {}));
      if (missed.length > 0 && solids.length > 0)
        out.push(say('ground-missed', { count: missed.length, missed: ground.missed }, missed));
      if (edgeOn > 0) out.push(say('ground-along', { count: edgeOn }));
      return out;
    },
  };
}

/** Lands what stands in a row just as it is turned there. */
export function settleAsTurned(ground: GroundStep, out: Placements, row: number): void {
  const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  const frames: Facings = {
    front: Float64Array.from(quatRotate(q, [0, 0, 1])),
    up: Float64Array.from(quatRotate(q, [0, 1, 0])),
    outward: 1,
  };
  const orient = ({ front: f, up: u }: Facings, r: number) =>
    writeQuatFromUpFront(out.rotation, row * 4, u[r], u[r + 1], u[r + 2], f[r], f[r + 1], f[r + 2]);
  ground.settle(out, { row, slot: out.slot[row], frames, r: 0, lift: 0, orient });
}

/** The pile of those that have landed, where they may land on each other: along one direction for all. */
function stackOf(ground: Ground, typed: Vec3, shapes: (PropShape | undefined)[]): Pile | null {
  if (!ground.stack || ground.mode !== 'land') return null;
  if (ground.direction !== 'down' && ground.direction !== 'typed') return null;
  const width = Math.max(
    0,
    ...shapes.map((s) => (s ? Math.max(...s.outermost.map((p) => hypot(...p)), 0) : 0)),
  );
  return newPile(ground.direction === 'down' ? [0, -1, 0] : typed, width * 2);
}

/** The triangles of a prop as it stands in a row. */
function standing(out: Placements, row: number, shape: PropShape): Float64Array {
  const own = shape.triangles();
  const [x, y, z, w] = out.rotation.subarray(row * 4, row * 4 + 4);
  const [sx, sy, sz] = out.scale.subarray(row * 3, row * 3 + 3);
  const m = [
    (1 - 2 * (y * y + z * z)) * sx,
    2 * (x * y - z * w) * sy,
    2 * (x * z + y * w) * sz,
    2 * (x * y + z * w) * sx,
    (1 - 2 * (x * x + z * z)) * sy,
    2 * (y * z - x * w) * sz,
    2 * (x * z - y * w) * sx,
    2 * (y * z + x * w) * sy,
    (1 - 2 * (x * x + y * y)) * sz,
  ];
  const to = new Float64Array(own.length);
  for (let o = 0; o < own.length; o += 3)
    for (let a = 0; a < 3; a++)
      to[o + a] =
        m[a * 3] * own[o] + m[a * 3 + 1] * own[o + 1] + m[a * 3 + 2] * own[o + 2] + out.position[row * 3 + a];
  return to;
}

/** Without ground its lift is above the place where it stands. */
function liftOnly(out: Placements, s: Standing): void {
  for (let a = 0; a < 3; a++) out.position[s.row * 3 + a] += s.frames.up[s.r + a] * s.lift;
}

/** A path seen from the side: its height and that of the ground under it, over its length. */
export interface Profile {
  s: Float64Array;
  path: Float64Array;
  /** NaN where there is none. */
  ground: Float64Array;
}

/** The profile of a path at `count` places. Without a direction of its own the ground is that straight below. */
export function profileAlong(
  path: CompiledPath,
  ground: Ground,
  context: ArrangeContext,
  count: number,
): Profile {
  const s = Float64Array.from({ length: count }, (_, i) => (path.length * i) / (count - 1));
  const { position } = samplePath(path, s);
  const probe = surfaceProbe(solidsOf(ground, context));
  const out: Profile = { s, path: new Float64Array(count), ground: new Float64Array(count) };
  for (let i = 0; i < count; i++) {
    out.path[i] = position[i * 3 + 1];
    const at: Vec3 = [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]];
    out.ground[i] = landing(probe, at, [0, -1, 0], ground.above)?.at[1] ?? NaN;
  }
  return out;
}

const scratch: Facings = { front: new Float64Array(3), up: new Float64Array(3), outward: 1 };

/** Leans a slot's frame towards the normal and turns its prop with it. @returns the new up */
function lean(s: Standing, normal: Vec3, ground: Ground): Vec3 {
  const { front, up } = s.frames;
  const f: Vec3 = [front[s.r], front[s.r + 1], front[s.r + 2]];
  const u: Vec3 = [up[s.r], up[s.r + 1], up[s.r + 2]];
  const close = u[0] * normal[0] + u[1] * normal[1] + u[2] * normal[2];
  if (ground.lean === 1 && ground.leanMaxDeg >= 180 && close > -0.999) {
    // All the way: up becomes the normal, and the front turns with it (Rodrigues, without an angle).
    const c = cross(u, normal);
    const a = cross(c, f);
    const b = cross(c, a);
    const k = 1 / (1 + close);
    for (let i = 0; i < 3; i++) {
      scratch.up[i] = normal[i];
      scratch.front[i] = f[i] + a[i] + b[i] * k;
    }
    scratch.outward = s.frames.outward;
    s.orient(scratch, 0);
    return normal;
  }
  const between = acos(Math.min(1, Math.max(-1, close)));
  const angle = Math.min(ground.lean * between, (ground.leanMaxDeg * Math.PI) / 180);
  if (angle < 1e-12) return u;
  // Upside down, every axis square to up is as good as another: it tips over its front.
  const axis = normalize(cross(u, normal), normalize(cross(u, f)));
  const to = rotateAbout(u, axis, angle);
  scratch.outward = s.frames.outward;
  scratch.up.set(to);
  scratch.front.set(rotateAbout(f, axis, angle));
  s.orient(scratch, 0);
  return to;
}
