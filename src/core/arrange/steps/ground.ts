import { channel, randomBase, randomOf } from '../../math/random';
import { quatRotate, type Quat } from '../../math/quat';
import { cross, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { acos } from '../../math/portable';
import { newPile, type Pile } from '../../mesh/contact/pile';
import { normalAtRest } from '../../mesh/contact/rests';
import type { PropShape } from '../../mesh/contact/support';
import { STATE, type Finding, type FindingKind, type Placements } from '../result';
import type { ArrangeContext } from '../context';
import type { Facings } from './facing';
import {
  dropOf,
  floorUnder,
  footingOf,
  matrixOf,
  restingRow,
  sizeOf,
  type Footing,
  type Met,
} from './groundContact';
import { Resters } from './resters';
import { landing, nearest, triMeshesOf, surfaceProbe } from './groundProbe';
import type { Ground } from './groundSchema';

const SINK = channel('ground.sink');
/** Surfaces met at less than this (sine of the angle) are met edge on. */
const EDGE_ON = 0.035;

/**
 * The ground step of one arrangement, and what it found. For each row: meet, lean, pose again, rest, landed. Where rows
 * land each by itself, each of these is done for all of them together: meet, {@link GroundStep.restAll}, lean, pose
 * again, {@link GroundStep.dropAll}, rest, landed.
 */
export interface GroundStep {
  landsTogether: boolean;
  /** Finds what those lean to that have met. */
  restAll(): void;
  /** Finds how far those fall that are posed for good. */
  dropAll(out: Placements, rows: readonly { row: number; met: Met | null }[]): void;
  /**
   * Looks for the ground of a row as it is posed. Where there is none it stays, or falls onto its fellows; its lift is
   * the caller's then. @param frame unit, perpendicular front and up before it leans, from `r` on
   */
  meet(out: Placements, row: number, slot: number, frame: Facings, r: number): Met | null;
  /** Whether rows tilt all the way to where they rest. */
  tilts: boolean;
  /** The normal of a row that has leaned onto one already, where it rests as it is posed now. */
  atRest(out: Placements, row: number, met: Met, frame: Facings, r: number): Vec3;
  /** The frame that leans to a normal, as its first row, until the next is asked for; null where none leans. */
  lean(frame: Facings, r: number, normal: Vec3): Facings | null;
  /** Puts a row that is posed onto what it met, lifted along the up of its frame. @param lift metres */
  rest(out: Placements, row: number, slot: number, met: Met, frame: Facings, r: number, lift: number): void;
  /** Says that a row stands: others may land on it. */
  landed(out: Placements, row: number): void;
  findings(node: string): Finding[];
}

/**
 * Prepares the step. @param shapes of the props that the placements count; undefined where a mesh is not at hand
 * @param asOne what of a row may touch, where that is more than its prop
 * @returns null where nothing is to be done
 */
export function groundStep(
  ground: Ground,
  context: ArrangeContext,
  seed: number,
  shapes: (PropShape | undefined)[],
  asOne?: (out: Placements, row: number) => PropShape | undefined,
): GroundStep | null {
  if (ground.mode === 'none') return null;
  const triMeshes = triMeshesOf(ground, context);
  const gone = ground.surfaces.filter((id) => !context.surface?.(id));
  const sinkBase = randomBase(seed, SINK);
  const [sinkLow, sinkHigh] = [Math.min(...ground.sink), Math.max(...ground.sink)];
  const missed: number[] = [];
  let edgeOn = 0;
  const typed = normalize(ground.typed, [0, -1, 0]);
  const surfaces = surfaceProbe(triMeshes);
  let footing: Footing | null = null;
  const touches = ground.contact !== 'foot';
  const pile = stackOf(ground, typed, shapes);
  const shapeAt = asOne ?? ((out: Placements, row: number) => shapes[out.prop[row]]);
  const rests = ground.contact === 'footprint' && ground.lean !== 0;
  const together = touches && !pile && !asOne ? new Resters(triMeshes, shapes, context) : null;

  const directionOf = (out: Placements, row: number, { up }: Facings, r: number): Vec3 => {
    if (ground.direction === 'path') return [-up[r], -up[r + 1], -up[r + 2]];
    if (ground.direction === 'typed') return typed;
    if (ground.direction === 'prop') {
      const y = quatRotate([...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat, [0, 1, 0]);
      return [-y[0], -y[1], -y[2]];
    }
    return [0, -1, 0];
  };
  const fellowsOf = (out: Placements, row: number) => (out.state[row] === STATE.placed ? pile : null);

  const meet = (out: Placements, row: number, slot: number, frame: Facings, r: number): Met | null => {
    const at: Vec3 = [out.position[row * 3], out.position[row * 3 + 1], out.position[row * 3 + 2]];
    const shape = shapeAt(out, row);
    const hugs = ground.mode === 'hug';
    let direction = hugs ? ([0, -1, 0] as Vec3) : directionOf(out, row, frame, r);
    let onFloor = false;
    let meeting = hugs ? nearest(triMeshes, at) : landing(surfaces, at, direction, ground.above);
    if (hugs && meeting) direction = [-meeting.normal[0], -meeting.normal[1], -meeting.normal[2]];
    const fellows = fellowsOf(out, row);
    if (!meeting && fellows && shape) {
      const room = fellows.room(standing(out, row, shape));
      if (room < Infinity) {
        for (let a = 0; a < 3; a++) out.position[row * 3 + a] += direction[a] * room;
        return null;
      }
    }
    if (!meeting) {
      // A gap that finds no ground is nobody's worry.
      if (out.state[row] === STATE.placed) missed.push(slot);
      if (ground.missed === 'leave-out' && out.state[row] === STATE.placed) out.state[row] = STATE.missed;
      if (ground.missed !== 'floor') return null;
      onFloor = true;
      direction = [0, -1, 0];
      meeting = { at: [at[0], ground.floor, at[2]], normal: [0, 1, 0] };
    }
    const { normal: n } = meeting;
    const facing = -(n[0] * direction[0] + n[1] * direction[1] + n[2] * direction[2]);
    if (facing < EDGE_ON && out.state[row] === STATE.placed) edgeOn++;
    const met: Met = { at: meeting.at, direction, normal: n, ground: n };
    if (!touches || !shape) return met;
    met.footing = onFloor
      ? floorUnder(met.at, sizeOf(out, row) * shape.reach)
      : (footing ??= footingOf(triMeshes));
    if (together && !onFloor) {
      if (rests) together.rest(met, out, row, frame, r);
    } else met.normal = atRest(out, row, met, frame, r, true);
    return met;
  };

  const atRest = (out: Placements, row: number, met: Met, { up }: Facings, r: number, anew = false): Vec3 => {
    const { footing: on, at, direction, normal, ground: slope } = met;
    if (!on || !rests) return normal;
    const from: Vec3 = [up[r], up[r + 1], up[r + 2]];
    const resting = restingRow(out, row, at, direction, from, slope);
    return normalAtRest(on.fall, shapeAt(out, row)!.thing(), resting, anew);
  };

  const rest: GroundStep['rest'] = (
    out,
    row,
    slot,
    { at, direction, ground: slope, footing: on, found },
    { up },
    r,
    lift,
  ) => {
    const shape = shapeAt(out, row);
    const down = on && shape ? dropOf(on, shape, out, row, at, direction, slope, found) : 0;
    const sink = sinkLow === sinkHigh ? sinkLow : sinkLow + (sinkHigh - sinkLow) * randomOf(sinkBase, slot);
    for (let a = 0; a < 3; a++) out.position[row * 3 + a] = at[a] + direction[a] * (down + sink);
    // On its fellows it rests exactly; it is they that keep it from the ground.
    const fellows = fellowsOf(out, row);
    const room = fellows && shape ? fellows.room(standing(out, row, shape)) : Infinity;
    for (let a = 0; a < 3; a++)
      out.position[row * 3 + a] += direction[a] * Math.min(0, room) + up[r + a] * lift;
  };

  const landed = (out: Placements, row: number): void => {
    const shape = shapeAt(out, row);
    const fellows = fellowsOf(out, row);
    if (fellows && shape) fellows.add(standing(out, row, shape));
  };

  return {
    landsTogether: together !== null,
    restAll() {
      for (const met of together?.done(true) ?? [])
        met.normal = [met.found![0], met.found![1], met.found![2]];
    },
    dropAll(out, rows) {
      for (const { row, met } of rows)
        if (met?.footing && met.footing === footing) together!.drop(met, out, row);
      together!.done(false);
    },
    meet,
    tilts: ground.contact === 'footprint' && ground.lean === 1 && ground.leanMaxDeg >= 180,
    atRest,
    lean: (frame, r, normal) => lean(frame, r, normal, ground),
    rest,
    landed,
    findings(node) {
      const say = (kind: FindingKind, detail: Finding['detail'], slots?: number[]): Finding => ({
        kind,
        severity: kind === 'surface-missing' || kind === 'no-ground' ? 'error' : 'warning',
        node,
        detail,
        ...(slots && { slots }),
      });
      const out: Finding[] = [];
      if (gone.length > 0) out.push(say('surface-missing', { surface: gone[0] }));
      else if (triMeshes.length === 0) out.push(say('no-ground', {}));
      if (missed.length > 0 && triMeshes.length > 0)
        out.push(say('ground-missed', { count: missed.length, missed: ground.missed }, missed));
      if (edgeOn > 0) out.push(say('ground-along', { count: edgeOn }));
      return out;
    },
  };
}

/** The pile of those that have landed, where they may land on each other: along one direction for all. */
function stackOf(ground: Ground, typed: Vec3, shapes: (PropShape | undefined)[]): Pile | null {
  if (!ground.stack || ground.mode !== 'land') return null;
  if (ground.direction !== 'down' && ground.direction !== 'typed') return null;
  const width = Math.max(0, ...shapes.map((s) => s?.reach ?? 0));
  return newPile(ground.direction === 'down' ? [0, -1, 0] : typed, width * 2);
}

/** The triangles of a prop as it stands in a row. */
function standing(out: Placements, row: number, shape: PropShape): Float64Array {
  const own = shape.triangles();
  const m = matrixOf(out, row);
  const to = new Float64Array(own.length);
  for (let o = 0; o < own.length; o += 3)
    for (let a = 0; a < 3; a++)
      to[o + a] =
        m[a * 3] * own[o] + m[a * 3 + 1] * own[o + 1] + m[a * 3 + 2] * own[o + 2] + out.position[row * 3 + a];
  return to;
}

const leaned: Facings = { front: new Float64Array(3), up: new Float64Array(3), outward: 1 };

/** Leans a frame towards a normal, as far as it may. @returns null where it stays */
function lean({ front, up, outward }: Facings, r: number, normal: Vec3, ground: Ground): Facings | null {
  const f: Vec3 = [front[r], front[r + 1], front[r + 2]];
  const u: Vec3 = [up[r], up[r + 1], up[r + 2]];
  const close = u[0] * normal[0] + u[1] * normal[1] + u[2] * normal[2];
  leaned.outward = outward;
  if (ground.lean === 1 && ground.leanMaxDeg >= 180 && close > -0.999) {
    // All the way: up becomes the normal, and the front turns with it (Rodrigues, without an angle).
    const c = cross(u, normal);
    const a = cross(c, f);
    const b = cross(c, a);
    const k = 1 / (1 + close);
    for (let i = 0; i < 3; i++) {
      leaned.up[i] = normal[i];
      leaned.front[i] = f[i] + a[i] + b[i] * k;
    }
    return leaned;
  }
  const between = acos(Math.min(1, Math.max(-1, close)));
  const angle = Math.min(ground.lean * between, (ground.leanMaxDeg * Math.PI) / 180);
  if (angle < 1e-12) return null;
  // Upside down, every axis square to up is as good as another: it tips over its front.
  const axis = normalize(cross(u, normal), normalize(cross(u, f)));
  leaned.up.set(rotateAbout(u, axis, angle));
  leaned.front.set(rotateAbout(f, axis, angle));
  return leaned;
}
