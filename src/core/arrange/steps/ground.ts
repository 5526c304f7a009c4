import { channel, randomBase, randomOf } from '../../math/random';
import { quatRotate, type Quat } from '../../math/quat';
import { cross, normalize, rotateAbout, type Vec3 } from '../../math/vec3';
import { acos } from '../../math/portable';
import { firstHit, nearestPlace, noHit } from '../../mesh/bvhQuery';
import { normalOn, placeOn, type Solid } from '../../mesh/solid';
import { furthest, type PropShape } from '../../mesh/support';
import { STATE, type Finding, type FindingKind, type Placements } from '../../evaluate/result';
import type { CompiledPath } from '../../curve/compile';
import { samplePath } from '../../curve/sample';
import type { ArrangeContext } from '../context';
import type { Facings } from './facing';
import type { Ground } from './groundSchema';

const SINK = channel('ground.sink');
/** Surfaces met at less than this (sine of the angle) are met edge on. */
const EDGE_ON = 0.035;

/** Where a prop meets the ground. */
interface Meeting {
  at: Vec3;
  /** Unit, to the side that it came from. */
  normal: Vec3;
}

/** One slot as it stands before it meets the ground. */
export interface Standing {
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

/** What can be met: real surfaces, or the level floor that stands in for them. */
interface Probe {
  /** Lengths of `d` from `o` to the first thing met, −`back` at the least. */
  along(o: Vec3, d: Vec3, back: number): { t: number; normal: Vec3 } | null;
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
    const at: Vec3 = [out.position[s.row * 3], out.position[s.row * 3 + 1], out.position[s.row * 3 + 2]];
    let direction = ground.mode === 'hug' ? ([0, -1, 0] as Vec3) : directionOf(out, s);
    let probe = surfaces;
    let meeting =
      ground.mode === 'hug' ? nearest(solids, at) : landing(surfaces, at, direction, ground.above);
    if (ground.mode === 'hug' && meeting)
      direction = [-meeting.normal[0], -meeting.normal[1], -meeting.normal[2]];
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
    const shape = shapes[out.prop[s.row]];
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
    for (let a = 0; a < 3; a++)
      out.position[s.row * 3 + a] = meeting.at[a] + direction[a] * (down + sink) + up[a] * s.lift;
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

function solidsOf(ground: Ground, context: ArrangeContext): Solid[] {
  const ids = ground.surfaces.length > 0 ? ground.surfaces : (context.grounds?.() ?? []);
  return ids.map((id) => context.surface?.(id)).filter((s) => s !== undefined);
}

/** Without ground its lift is above the place where it stands. */
function liftOnly(out: Placements, s: Standing): void {
  for (let a = 0; a < 3; a++) out.position[s.row * 3 + a] += s.frames.up[s.r + a] * s.lift;
}

function surfaceProbe(solids: Solid[]): Probe {
  const hit = noHit();
  return {
    along(o, d, back) {
      let best: { t: number; normal: Vec3 } | null = null;
      for (const solid of solids) {
        const most = best ? best.t : Infinity;
        if (!firstHit(solid.tree(), o[0], o[1], o[2], d[0], d[1], d[2], -back, most, hit)) continue;
        if (best && hit.t >= best.t) continue;
        const n = normalOn(solid, hit.face, hit.u, hit.v);
        const k = n[0] * d[0] + n[1] * d[1] + n[2] * d[2] > 0 ? -1 : 1;
        best = { t: hit.t, normal: [n[0] * k, n[1] * k, n[2] * k] };
      }
      return best;
    },
  };
}

const floorProbe = (height: number): Probe => ({
  along: (o, d, back) => {
    const t = (height - o[1]) / d[1];
    return t >= -back ? { t, normal: [0, 1, 0] } : null;
  },
});

/** The first ground from `above` over a place on; where there is none, the first the other way. */
function landing(probe: Probe, at: Vec3, d: Vec3, above: number): Meeting | null {
  const down = probe.along(at, d, above);
  const against: Vec3 = [-d[0], -d[1], -d[2]];
  const up = down ? null : probe.along(at, against, 0);
  const found = down ?? up;
  if (!found) return null;
  const t = down ? found.t : -found.t;
  const { normal: n } = found;
  return {
    at: [at[0] + d[0] * t, at[1] + d[1] * t, at[2] + d[2] * t],
    // Met from below, it still stands on top.
    normal: down ? n : [-n[0], -n[1], -n[2]],
  };
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

function nearest(solids: Solid[], at: Vec3): Meeting | null {
  const hit = noHit();
  let best: { solid: Solid; face: number; u: number; v: number } | null = null;
  let away = Infinity;
  for (const solid of solids) {
    if (!nearestPlace(solid.tree(), at[0], at[1], at[2], away, hit) || hit.t >= away) continue;
    away = hit.t;
    best = { solid, face: hit.face, u: hit.u, v: hit.v };
  }
  return (
    best && {
      at: placeOn(best.solid, best.face, best.u, best.v),
      normal: normalOn(best.solid, best.face, best.u, best.v),
    }
  );
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

/** A point of the prop's own space as it stands in a row, from its foot. */
function fromFoot(out: Placements, row: number, p: Vec3): Vec3 {
  const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  const { scale } = out;
  return quatRotate(q, [p[0] * scale[row * 3], p[1] * scale[row * 3 + 1], p[2] * scale[row * 3 + 2]]);
}

/** Further than any point of a prop reaches from its foot. */
function reachOf(shape: PropShape, { scale }: Placements, row: number): number {
  let most = 0;
  for (const p of shape.outermost) most = Math.max(most, Math.abs(p[0]) + Math.abs(p[1]) + Math.abs(p[2]));
  return most * Math.max(Math.abs(scale[row * 3]), scale[row * 3 + 1], scale[row * 3 + 2]);
}

/** Normal of the plane through the ground under the corners of the base; null where fewer than three have ground. */
function planeUnder(
  out: Placements,
  row: number,
  shape: PropShape,
  foot: Vec3,
  d: Vec3,
  probe: Probe,
): Vec3 | null {
  const back = reachOf(shape, out, row);
  const found: Vec3[] = [];
  for (const corner of shape.base) {
    const p = fromFoot(out, row, corner);
    const o: Vec3 = [foot[0] + p[0], foot[1] + p[1], foot[2] + p[2]];
    const hit = probe.along(o, d, back);
    if (hit && hit.t <= back * 2) found.push([o[0] + d[0] * hit.t, o[1] + d[1] * hit.t, o[2] + d[2] * hit.t]);
  }
  return planeNormal(found, d);
}

/** The plane through a ring of points that fits them best (Newell's method: areas seen along each axis), against `d`. */
function planeNormal(points: Vec3[], d: Vec3): Vec3 | null {
  if (points.length < 3) return null;
  const n: Vec3 = [0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    n[0] += (p[1] - q[1]) * (p[2] + q[2]);
    n[1] += (p[2] - q[2]) * (p[0] + q[0]);
    n[2] += (p[0] - q[0]) * (p[1] + q[1]);
  });
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  const facing = n[0] * d[0] + n[1] * d[1] + n[2] * d[2];
  // Seen edge on they say nothing.
  if (!(l > 1e-12) || Math.abs(facing) < 1e-3 * l) return null;
  const k = facing > 0 ? -1 / l : 1 / l;
  return [n[0] * k, n[1] * k, n[2] * k];
}

/**
 * How far along `d` a prop whose foot stands at `foot` goes until the first of its points touches. Beside the given
 * points that one counts which lies furthest along `d`, so that it is exact on level ground.
 */
function drop(
  out: Placements,
  row: number,
  shape: PropShape,
  points: Vec3[],
  foot: Vec3,
  d: Vec3,
  probe: Probe,
  back: number,
): number {
  const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  // The direction in the prop's own space; sizes weigh its axes.
  const own = quatRotate([-q[0], -q[1], -q[2], q[3]], d);
  const { scale } = out;
  const i = furthest(
    shape.points,
    own[0] * scale[row * 3],
    own[1] * scale[row * 3 + 1],
    own[2] * scale[row * 3 + 2],
  );
  const lowest: Vec3[] =
    i < 0 ? [] : [[shape.points[i * 3], shape.points[i * 3 + 1], shape.points[i * 3 + 2]]];
  let least = Infinity;
  for (const point of [...lowest, ...points]) {
    const p = fromFoot(out, row, point);
    const hit = probe.along([foot[0] + p[0], foot[1] + p[1], foot[2] + p[2]], d, back);
    if (hit && hit.t < least) least = hit.t;
  }
  return least < Infinity ? least : 0;
}
