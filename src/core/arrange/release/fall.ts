import type { Collider, RigidBody, World } from '@dimforge/rapier3d-deterministic-compat';
import { channel, random01 } from '../../math/random';
import type { Vec3 } from '../../math/vec3';
import { lockedNow, lockOn, type LockOn } from '../steps/lock';
import { Misplaced } from '../steps/misplaced';
import { STATE, type Placements } from '../result';
import { PHASE, RATE, type Around, type FallFrame, type FallSpec } from './spec';
import { partFrom } from './parting';
import { Strikers } from './strikers';

/**
 * A fall from its beginning on, frame by frame. Frames are kept, so that a moment has one result however it is come to.
 * Bodies are convex parts with weight, friction and bounce (Rapier's solver, its deterministic build); what is said of
 * sizes and speeds below is in relation to each thing's own size, so that beads and barrels behave alike.
 */

const DELAY = channel('release.delay');

/** Iterations of the solver, and how stiff contacts are, hertz: together they keep a heap from sinking into itself. */
const ITERATIONS = 8;
const STIFF = 120;
/** How far off each other things are kept, in parts of their size: so far they may give way and still be apart. */
const SKIN = 0.004;
/** What is slower than this share of √(g · size) is braked, so that it does not roll or tremble for ever. */
const SLOW = 0.15;
const BRAKE = 6;
/** It is at rest once it has not moved by so much of its size, nor turned by more, for so many frames. */
const MOVED = 0.004;
const TURNED = 1e-5;
const CALM = 20;
/** Both grow with the seconds since its release, from these on: what rolls and trembles comes to its rest at last. */
const TIRED = 2;
const PATIENT = 1.5;
/** What rests is woken by what strikes it faster than this share of √(g · size). */
const WAKE = 0.25;
/** Deeper than this share of its size in something at its release it is inside that, and is parted gently. */
const INSIDE = 0.05;
const GENTLY = 0.75;
/** What is wedged, deeper than this share of its size, has what lies around it let go so many times. */
const WEDGE = 0.012;
const WEDGED = 10;
/** What is to be gone lies there for so long first, seconds. */
const LIES = 1;
const DENSITY = 300;
/** Numbers kept of all frames together: 20 million are 80 MB. */
const MOST_NUMBERS = 20_000_000;

/** What gains less than this share of gravity downwards is held up by something. */
const FREELY = 0.8;

type Speed = { x: number; y: number; z: number };

/** A row that is a body. */
interface Falling {
  row: number;
  body: RigidBody;
  /** Its size, metres: the mean of the sides of its box. */
  size: number;
  /** Frame at which it was let go; −1: not yet. */
  freed: number;
  isInside: boolean;
  /** How many times it was found wedged between what lies. */
  wedged: number;
  /** How fast it rose a frame ago, metres a second. */
  rose: number;
  /** Where it last moved to, and since when it has not. */
  calm: { x: number; y: number; z: number; turn: number[]; since: number };
  rest: number;
  ride: LockOn | null;
}

/** Bodies that fall from a moment on, frame after frame; what was worked out is kept, and gone on with. */
export class Fall {
  readonly frames: FallFrame[] = [];
  /** What positions are seen from: single numbers are finest there. */
  readonly origin: Vec3;
  /**
   * Rows that were inside something when they were let go, that fell past everything, that came to no rest; each with the
   * frame from which that is known, so that an earlier moment does not tell of it.
   */
  readonly inside = new Map<number, number>();
  readonly lost = new Map<number, number>();
  readonly restless = new Map<number, number>();
  /** Rows that keep a shape made for their place: they are not let go. */
  readonly shaped: number[] = [];
  /** What rides, by its row. */
  readonly rides = new Map<number, LockOn>();
  /** The slots of its rows. */
  readonly slots: Float64Array;
  isOver = false;
  readonly lastFrame: number;
  readonly strikers: Strikers;
  private world: World;
  private bodies: Falling[] = [];
  private byBody = new Map<number, Falling>();
  private held: Placements;

  constructor(private spec: FallSpec) {
    const { physics, release } = spec;
    this.held = spec.held(0);
    const { count, position } = this.held;
    this.slots = this.held.slot;
    this.origin = [0, 0, 0];
    for (let i = 0; i < count * 3; i++) this.origin[i % 3] += position[i] / count;
    this.origin = this.origin.map(Math.round) as Vec3;
    this.lastFrame = Math.min(
      Math.round(release.seconds * RATE),
      Math.max(RATE, Math.floor(MOST_NUMBERS / (7.25 * Math.max(1, count)))),
    );
    this.world = new physics.World({ x: 0, y: -release.gravity, z: 0 });
    this.strikers = new Strikers(this.world, spec, this.origin, spec.around(0));
    for (let row = 0; row < count; row++) this.add(row);
    const sizes = this.bodies.map((b) => b.size).sort((a, b) => a - b);
    const middle = sizes[sizes.length >> 1] ?? 1;
    const { integrationParameters: by } = this.world;
    by.lengthUnit = middle;
    by.numSolverIterations = ITERATIONS;
    by.contact_natural_frequency = STIFF;
    // Small things fall their own length sooner: they are looked at more often.
    this.steps = middle < 0.04 ? 4 : middle < 0.1 ? 2 : 1;
    this.world.timestep = 1 / RATE / this.steps;
    // What is let go at once has the way that it had just before.
    this.letGo(0, this.held, spec.heldMoves ? spec.held(-1) : null);
    this.keep(0);
    if (this.bodies.length === 0) this.end();
  }

  private steps = 1;

  private add(row: number): void {
    const { physics, release, parts } = this.spec;
    const p = this.held;
    if (p.state[row] !== STATE.placed) return;
    if ((p.shape?.[row] ?? -1) >= 0) return void this.shaped.push(row);
    const corners = parts(p.props[p.prop[row]]);
    if (!corners) return;
    const by = [0, 1, 2].map((k) => p.scale[row * 3 + k]);
    const body = this.world.createRigidBody(
      physics.RigidBodyDesc.kinematicPositionBased()
        .setCcdEnabled(true)
        .setCanSleep(false)
        .setLinearDamping(release.drag)
        .setAngularDamping(Math.max(0.5, release.drag)),
    );
    body.setTranslation(this.at(p, row), false);
    body.setRotation(turnOf(p, row), false);
    const sized = corners.map((part) => part.map((v, i) => v * by[i % 3]));
    const size = sizeOf(sized);
    for (const part of sized) {
      const desc = physics.ColliderDesc.convexHull(part);
      if (!desc) continue;
      desc.setFriction(release.friction).setRestitution(release.bounce).setDensity(DENSITY);
      this.world.createCollider(desc.setContactSkin(SKIN * size), body);
    }
    if (body.numColliders() === 0) return this.world.removeRigidBody(body);
    const calm = { x: NaN, y: 0, z: 0, turn: [0, 0, 0, 1], since: 0 };
    const falling = {
      row,
      body,
      size,
      freed: -1,
      isInside: false,
      wedged: 0,
      rose: 0,
      calm,
      rest: -1,
      ride: null,
    };
    this.bodies.push(falling);
    this.byBody.set(body.handle, falling);
  }

  private at(p: Placements, row: number) {
    const [x, y, z] = this.origin;
    const o = row * 3;
    return { x: p.position[o] - x, y: p.position[o + 1] - y, z: p.position[o + 2] - z };
  }

  /**
   * Goes on to a frame, if it is not there yet.
   * @param goOn asked after each frame whether there is time for another one @returns the share that is done, 0–1
   */
  reach(frame: number, goOn: () => boolean): number {
    const wanted = Math.min(frame, this.lastFrame);
    while (!this.isOver && this.frames.length <= wanted) {
      this.next();
      if (!goOn()) break;
    }
    return this.isOver || this.frames.length > wanted ? 1 : this.frames.length / (wanted + 1);
  }

  private next(): void {
    const { spec, world, bodies } = this;
    const frame = this.frames.length;
    const before = this.held;
    const now = spec.heldMoves ? spec.held(frame) : before;
    this.held = now;
    const around = spec.moving.size > 0 ? spec.around(frame) : null;
    if (around) this.strikers.move(around);
    for (const b of bodies) {
      if (b.freed < 0 && spec.heldMoves && b.row < now.count) {
        b.body.setNextKinematicTranslation(this.at(now, b.row));
        b.body.setNextKinematicRotation(turnOf(now, b.row));
      } else if (b.ride && around) this.carry(b, around);
      else if (b.freed >= 0 && b.rest < 0) this.brake(b, frame, now);
    }
    for (let k = 0; k < this.steps; k++) world.step();
    for (const b of bodies) if (b.freed >= 0 && b.rest < 0) this.look(b, frame);
    for (const b of bodies) if (b.freed >= 0 && b.rest < 0) this.settle(b, frame, around);
    this.letGo(frame, now, before);
    // What is gone is in nobody's way.
    for (const b of bodies) if (this.phaseOf(b, frame) === PHASE.gone) b.body.setEnabled(false);
    this.keep(frame);
    const all = bodies.every((b) => b.rest >= 0);
    const isGoing = spec.release.then === 'go' && bodies.some((b) => frame < b.rest + LIES * RATE);
    if (frame >= this.lastFrame || (all && !isGoing && this.rides.size === 0)) this.end();
  }

  /** Lets those go whose moment has come. */
  private letGo(frame: number, now: Placements, before: Placements | null): void {
    const { release, seed, physics, heldMoves, isLetGo } = this.spec;
    const { who, every, over } = release;
    this.bodies.forEach((b, turn) => {
      if (b.freed >= 0) return;
      const wait =
        who === 'turn' ? turn * every : who === 'chance' ? random01(seed, now.slot[b.row], DELAY) * over : 0;
      const isDue = isLetGo ? isLetGo(b.row, now, before) : frame >= wait * RATE - 1e-9;
      if (!isDue) return;
      b.freed = frame;
      b.body.setBodyType(physics.RigidBodyType.Dynamic, true);
      if (!heldMoves || !before) return;
      // It keeps the way that it had.
      const [p, q] = [this.at(now, b.row), this.at(before, b.row)];
      b.body.setLinvel({ x: (p.x - q.x) * RATE, y: (p.y - q.y) * RATE, z: (p.z - q.z) * RATE }, true);
    });
  }

  /** What its hold, a brake and care do to the speed of what falls. */
  private brake(b: Falling, frame: number, now: Placements): void {
    const { fade, drag, gravity } = this.spec.release;
    const age = (frame - b.freed) / RATE;
    const { body, size } = b;
    const v = body.linvel();
    const w = body.angvel();
    const speed = Math.sqrt(v.x * v.x + v.y * v.y + v.z * v.z);
    const spin = (Math.sqrt(w.x * w.x + w.y * w.y + w.z * w.z) * size) / 2;
    const isSlow = speed + spin < SLOW * Math.max(1, age / TIRED) * Math.sqrt(gravity * size);
    const isHeld = age <= fade;
    body.setLinearDamping(isSlow && !isHeld && age > 0.25 ? BRAKE : drag);
    body.setAngularDamping(isSlow && age > 0.25 ? BRAKE : Math.max(0.5, drag));
    this.slowRoll(b, v, w);
    if (b.isInside && age < GENTLY) {
      const most = size * 2 + gravity * age;
      if (speed > most)
        body.setLinvel({ x: (v.x / speed) * most, y: (v.y / speed) * most, z: (v.z / speed) * most }, true);
    }
    if (fade <= 0) return;
    const hold = Math.max(0, 1 - age / fade);
    body.setGravityScale(1 - hold, true);
    if (hold === 0) return;
    const [to, at] = [this.at(now, b.row), body.translation()];
    const pull = (target: number, is: number, own: number) =>
      own * (1 - hold) + (target - is) * RATE * hold * hold;
    body.setLinvel({ x: pull(to.x, at.x, v.x), y: pull(to.y, at.y, v.y), z: pull(to.z, at.z, v.z) }, true);
    body.setAngvel({ x: w.x * (1 - hold), y: w.y * (1 - hold), z: w.z * (1 - hold) }, true);
  }

  /**
   * Rolling friction: what turns while something holds it up loses speed and spin as a wheel does on soft ground, by a
   * share of gravity. What falls as freely as things do is held up by nothing.
   */
  private slowRoll(b: Falling, v: Speed, w: Speed): void {
    const { rolling, gravity } = this.spec.release;
    const isFree = (v.y - b.rose) * RATE < -FREELY * gravity;
    b.rose = v.y;
    if (rolling === 0 || isFree) return;
    const spin = Math.sqrt(w.x * w.x + w.y * w.y + w.z * w.z);
    const speed = Math.sqrt(v.x * v.x + v.y * v.y + v.z * v.z);
    if (!(spin > 0)) return;
    // What slides without turning is the business of friction alone.
    const rolls = speed > 0 ? Math.min(1, (spin * b.size) / 2 / speed) : 1;
    const lost = (rolling * gravity) / RATE;
    const keep = 1 - Math.min(1, (lost * rolls) / Math.max(speed, (spin * b.size) / 2));
    b.body.setAngvel({ x: w.x * keep, y: w.y * keep, z: w.z * keep }, true);
    b.body.setLinvel({ x: v.x * keep, y: v.y, z: v.z * keep }, true);
  }

  /** Whether it strikes what rests, or was let go inside something. */
  private look(b: Falling, frame: number): void {
    const v = b.body.linvel();
    const fast = v.x * v.x + v.y * v.y + v.z * v.z > WAKE * WAKE * this.spec.release.gravity * b.size;
    const isNew = frame - b.freed <= 2;
    if (!fast && !isNew) return;
    this.contacts(b, (other, depth) => {
      const found = this.byBody.get(other.parent()?.handle ?? -1);
      if (fast && found && found.rest >= 0 && !found.ride && depth > -SKIN * b.size) this.wake(found, frame);
      if (isNew && !b.isInside && depth > INSIDE * b.size) {
        b.isInside = true;
        this.inside.set(b.row, frame);
      }
    });
  }

  private wake(b: Falling, frame: number): void {
    b.rest = -1;
    b.calm.since = frame;
    b.body.setBodyType(this.spec.physics.RigidBodyType.Dynamic, true);
  }

  /** Everything that a body is in touch with, and how deep. */
  private contacts(b: Falling, each: (other: Collider, depth: number) => void): void {
    for (let i = 0; i < b.body.numColliders(); i++) {
      const own = b.body.collider(i);
      this.world.contactPairsWith(own, (other) => {
        let depth = -Infinity;
        this.world.contactPair(own, other, (m) => {
          for (let k = 0; k < m.numContacts(); k++) depth = Math.max(depth, -m.contactDist(k));
        });
        if (depth > -Infinity) each(other, depth);
      });
    }
  }

  /** Takes what does not move any more to be at rest. */
  private settle(b: Falling, frame: number, around: Around | null): void {
    const { release, physics } = this.spec;
    const at = b.body.translation();
    if (at.y + this.origin[1] < release.floor) {
      this.lost.set(b.row, frame);
      b.body.setTranslation({ ...at, y: release.floor - this.origin[1] }, false);
      return this.fix(b, frame);
    }
    const { calm, size } = b;
    const q = b.body.rotation();
    const t = calm.turn;
    const patience = Math.max(1, (frame - b.freed) / RATE / PATIENT);
    const far = MOVED * size * patience;
    const [x, y, z] = [at.x - calm.x, at.y - calm.y, at.z - calm.z];
    const turned = 1 - Math.abs(q.x * t[0] + q.y * t[1] + q.z * t[2] + q.w * t[3]);
    if (!(x * x + y * y + z * z <= far * far) || turned > TURNED * patience * patience) {
      b.calm = { x: at.x, y: at.y, z: at.z, turn: [q.x, q.y, q.z, q.w], since: frame };
    }
    const isHeld = frame - b.freed <= release.fade * RATE;
    if (frame - b.calm.since < CALM || isHeld) return;
    const carrier = around && this.onMoving(b);
    if (carrier && release.then !== 'ride') return;
    const inside = partFrom(this.world, b.body, size);
    if (!carrier && inside > WEDGE * size && b.wedged++ < WEDGED) {
      b.calm.since = frame;
      return this.loosen(b, frame);
    }
    this.fix(b, frame);
    if (!carrier) return;
    const [px, py, pz] = this.origin;
    const lies = b.body.translation();
    b.ride = lockOn(around.surfaces, [lies.x + px, lies.y + py, lies.z + pz], [q.x, q.y, q.z, q.w]);
    if (!b.ride) return;
    this.rides.set(b.row, b.ride);
    b.body.setBodyType(physics.RigidBodyType.KinematicPositionBased, false);
  }

  private onMoving(b: Falling): boolean {
    let found = false;
    this.contacts(
      b,
      (other, depth) => (found ||= depth > -SKIN * b.size * 2 && this.strikers.moving.has(other.handle)),
    );
    return found;
  }

  /** Lets go of what lies around something that is wedged: each time of what lies one farther off. */
  private loosen(b: Falling, frame: number): void {
    let edge = [b];
    for (let ring = 0; ring < b.wedged; ring++) {
      const next: Falling[] = [];
      for (const from of edge)
        this.contacts(from, (other) => {
          const found = this.byBody.get(other.parent()?.handle ?? -1);
          if (!found || found.rest < 0 || found.ride) return;
          this.wake(found, frame);
          next.push(found);
        });
      edge = next;
    }
  }

  private fix(b: Falling, frame: number): void {
    b.rest = frame;
    b.body.setBodyType(this.spec.physics.RigidBodyType.Fixed, false);
  }

  /** Carries what rides to where its place of the surface is now. */
  private carry(b: Falling, { surfaces }: Around): void {
    const now = rideNow(b.ride!, surfaces);
    const [x, y, z] = now.position.map((v, k) => v - this.origin[k]);
    b.body.setNextKinematicTranslation({ x, y, z });
    const [rx, ry, rz, rw] = now.rotation;
    b.body.setNextKinematicRotation({ x: rx, y: ry, z: rz, w: rw });
  }

  private keep(frame: number): void {
    const { count } = this.held;
    const last = this.frames.at(-1);
    const made: FallFrame = {
      position: new Float32Array(count * 3),
      rotation: new Float32Array(count * 4),
      phase: new Uint8Array(count),
    };
    for (const b of this.bodies) {
      const { row, body } = b;
      if (row >= count) continue;
      if (last && b.rest >= 0 && !b.ride && frame > b.rest) {
        made.position.set(last.position.subarray(row * 3, row * 3 + 3), row * 3);
        made.rotation.set(last.rotation.subarray(row * 4, row * 4 + 4), row * 4);
      } else {
        const [p, q] = [body.translation(), body.rotation()];
        made.position.set([p.x, p.y, p.z], row * 3);
        made.rotation.set([q.x, q.y, q.z, q.w], row * 4);
      }
      made.phase[row] = this.phaseOf(b, frame);
    }
    this.frames.push(made);
  }

  private phaseOf(b: Falling, frame: number): number {
    if (b.freed < 0) return PHASE.held;
    if (b.rest < 0) return PHASE.falling;
    return this.spec.release.then === 'go' && frame >= b.rest + LIES * RATE ? PHASE.gone : PHASE.rest;
  }

  private end(): void {
    this.isOver = true;
    for (const b of this.bodies)
      if (b.freed >= 0 && b.rest < 0) this.restless.set(b.row, this.frames.length - 1);
    this.free();
  }

  private isFree = false;

  /** Gives back what the solver holds; what has been worked out stays. Nothing goes on after that. */
  free(): void {
    if (!this.isFree) this.world.free();
    this.isFree = this.isOver = true;
  }
}

/** Where what rides is, as the surfaces are now. */
export function rideNow(on: LockOn, surfaces: Around['surfaces']): ReturnType<typeof lockedNow> {
  const context = { surface: (id: string) => surfaces.get(id) } as Parameters<typeof lockedNow>[2];
  const lock = { prop: '', s: 0, position: on.position, rotation: on.rotation, scale: [1, 1, 1] as Vec3, on };
  return lockedNow(lock, 0, context, new Misplaced());
}

const turnOf = (p: Placements, row: number) => {
  const q = row * 4;
  return { x: p.rotation[q], y: p.rotation[q + 1], z: p.rotation[q + 2], w: p.rotation[q + 3] };
};

/** The mean of the sides of the box about some parts, metres. */
function sizeOf(parts: readonly Float32Array[]): number {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const part of parts)
    for (let i = 0; i < part.length; i++) {
      low[i % 3] = Math.min(low[i % 3], part[i]);
      high[i % 3] = Math.max(high[i % 3], part[i]);
    }
  return Math.max(1e-4, low.reduce((sum, l, k) => sum + high[k] - l, 0) / 3);
}
