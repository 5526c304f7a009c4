import { writeUnitQuat } from '../../math/quat';
import { hypot } from '../../math/portable';
import type { Bends } from '../steps/whichBend';
import { framesAlong } from '../../curve/frames';
import { alongPoints } from '../../curve/sample';
import { STATE, type Placements } from '../result';
import type { Vec3 } from '../../math/vec3';
import type { Solid } from '../../mesh/solid';
import { parseSlotName } from '../slotId';
import { turnTipRoll, writeHeading, type Aim, type Facings } from '../steps/facing';
import type { Bender } from '../steps/bending';
import { closeUp, markGaps } from '../steps/gaps';
import type { KeptOut } from '../steps/keepOuts';
import type { GroundStep } from '../steps/ground';
import { surfaceStand, type Pose, type SurfaceStand } from '../steps/onSurface';
import { rampAt } from '../steps/ramp';
import type { HandCorrection } from '../steps/schema';
import { VARIED, type Varied, type Varier } from '../steps/variation';
import type { Lane } from './lane';
import type { Run } from './schema';

/** What placing needs beside the lane itself; the same for all lanes of a run. */
export interface Placing {
  run: Run;
  hand: Map<number, HandCorrection>;
  decided: Map<number, boolean>;
  varier: Varier | null;
  aim: Aim | null;
  ground: GroundStep | null;
  bender: Bender | null;
  bends: Bends | null;
  /** A surface as it stands now. */
  solid(id: string): Solid | undefined;
  /** Where the varier writes one slot's values. */
  varied: Varied;
}

/** Where each slot of a lane stands before variation: foot, front and up, three numbers each. */
interface Stand extends Facings {
  position: Float64Array;
  /** On a surface: slot i moved on from its place on the path, along the surface. Else undefined. */
  moved?(i: number, along: number, side: number): Pose | null;
}

/** Hand corrections by slot id. */
export const handById = (run: Run): Map<number, HandCorrection> =>
  new Map(Object.entries(run.hand).map(([name, h]) => [parseSlotName(name), h]));

/** Fills rows from `start` on: gaps, then position, facing, variation and size of every slot of a lane. */
export function placeLane(
  lane: Lane,
  p: Placing,
  out: Placements,
  start: number,
  keptOut: KeptOut | null,
): void {
  const { run } = p;
  const n = lane.id.length;
  const stand = standOf(lane, p);
  const state = out.state.subarray(start, start + n);
  const at = (i: number): Vec3 => [
    stand.position[i * 3],
    stand.position[i * 3 + 1],
    stand.position[i * 3 + 2],
  ];
  const isKeptOut = (i: number) => lane.past[i] === 0 && keptOut !== null && keptOut(lane.s[i], at(i));
  markGaps(
    run.gaps,
    { id: lane.id, isRest: (i) => lane.prop[i] < 0, isKeptOut },
    { seed: run.seed, hand: p.decided },
    state,
  );
  const to = run.gaps.after === 'close' && !lane.touch ? closeUp(state, isKeptOut) : null;
  out.slot.set(lane.id, start);
  out.prop.set(lane.prop, start);
  for (let i = 0; i < n; i++) {
    const place = to ? to[i] : i;
    if (lane.past[place] && state[i] === STATE.placed) state[i] = STATE.pastEnd;
    out.s[start + i] = lane.s[place];
    placeSlot(lane, p, stand, i, place, out, start + i);
    if (p.bends?.(lane.id[i], lane.prop[i]) && state[i] === STATE.placed)
      p.bender?.bend(lane.path, lane.s[place], out, start + i, lane.cutAt);
  }
}

/** How far slot i of a lane stands to the right of its path. */
function asideOf(lane: Lane, run: Run): ((i: number) => number) | null {
  const fixed = run.facing.side + lane.offset;
  const ramp = run.facing.sideRamp;
  if (fixed === 0 && ramp.length === 0 && !lane.alternate) return null;
  return (i) =>
    (lane.alternate && i % 2 === 1 ? run.facing.side - lane.offset : fixed) +
    rampAt(ramp, lane.s[i] / lane.path.length, 0);
}

/** Frames of a lane with its offset to the side; for props end to end those of their chords. */
function standOf(lane: Lane, p: Placing): Stand {
  const { path, touch, outward } = lane;
  const { run } = p;
  const { posture } = run.facing;
  const n = lane.id.length;
  const frames = framesAlong(path, lane.s, posture === 'surface' ? 'slope' : posture);
  const { front, up } = frames;
  const aside = asideOf(lane, run);
  const solid = posture === 'surface' && path.on ? p.solid(path.on.surface) : undefined;
  // Bent ones lie on the path itself, not on chords.
  const position = touch && !run.facing.bend ? touch.position.slice() : frames.position;
  const stand: Stand = { position, front, up, outward };
  if (solid) standOnSurface(stand, lane, surfaceStand(path, solid, lane.s, frames, run.facing.lean), aside);
  if (touch && !run.facing.bend) {
    chordFronts(touch.direction, front, up, posture === 'upright');
    const moved = lane.s.some((s, i) => s !== touch.s[i]);
    // Nudged along: as far on as the hand said, in the direction in which it lies.
    if (moved)
      for (let i = 0; i < n; i++)
        for (let a = 0; a < 3; a++)
          position[i * 3 + a] += touch.direction[i * 3 + a] * (lane.s[i] - touch.s[i]);
    return stand;
  }
  if (!aside || solid) return stand;
  for (let i = 0; i < n; i++) {
    const side = aside(i);
    const r = i * 3;
    position[r] += side * (front[r + 1] * up[r + 2] - front[r + 2] * up[r + 1]);
    position[r + 1] += side * (front[r + 2] * up[r] - front[r] * up[r + 2]);
    position[r + 2] += side * (front[r] * up[r + 1] - front[r + 1] * up[r]);
  }
  return stand;
}

/** Puts a lane's frames onto the surface that its path lies on, its way to the side walked over it. */
function standOnSurface(
  stand: Stand,
  lane: Lane,
  on: SurfaceStand,
  aside: ((i: number) => number) | null,
): void {
  const { position, front, up } = stand;
  const pose: Pose = { position: [0, 0, 0], front: [0, 0, 1], up: [0, 1, 0] };
  for (let i = 0; i < lane.id.length; i++) {
    if (!on.has(i)) continue;
    on.moved(i, 0, aside?.(i) ?? 0, pose);
    front.set(pose.front, i * 3);
    up.set(pose.up, i * 3);
    if (!lane.touch) {
      position.set(pose.position, i * 3);
      continue;
    }
    if (!aside) continue;
    // End to end they lie on chords: those are moved to the side as a whole.
    const [x, y, z] = pose.position;
    on.moved(i, 0, 0, pose);
    position[i * 3] += x - pose.position[0];
    position[i * 3 + 1] += y - pose.position[1];
    position[i * 3 + 2] += z - pose.position[2];
  }
  if (lane.touch) return;
  stand.moved = (i, along, side) => {
    if (!on.has(i)) return null;
    on.moved(i, along, side + (aside?.(i) ?? 0), pose);
    return pose;
  };
}

/** Turns fronts to the chords' directions, and ups square to them. */
function chordFronts(direction: Float64Array, front: Float64Array, up: Float64Array, level: boolean): void {
  for (let r = 0; r < front.length; r += 3) {
    const d: Vec3 = [direction[r], level ? 0 : direction[r + 1], direction[r + 2]];
    const l = hypot(...d);
    if (l < 1e-9) continue;
    for (let a = 0; a < 3; a++) front[r + a] = d[a] / l;
    const k = front[r] * up[r] + front[r + 1] * up[r + 1] + front[r + 2] * up[r + 2];
    const u: Vec3 = [up[r] - front[r] * k, up[r + 1] - front[r + 1] * k, up[r + 2] - front[r + 2] * k];
    const ul = hypot(...u);
    if (ul < 1e-9) continue;
    for (let a = 0; a < 3; a++) up[r + a] = u[a] / ul;
  }
}

/** One pose as the first row of a stand. */
const standAt = ({ position, front, up }: Pose, outward: number): Stand => ({
  position: Float64Array.from(position),
  front: Float64Array.from(front),
  up: Float64Array.from(up),
  outward,
});

/** One slot `i` of a lane at the place `place` (another one where the run closed up). */
function placeSlot(
  lane: Lane,
  p: Placing,
  stand: Stand,
  i: number,
  place: number,
  out: Placements,
  row: number,
): void {
  const { run } = p;
  const { facing } = run;
  const slot = lane.id[i];
  const hand = p.hand.size > 0 ? p.hand.get(slot) : undefined;
  if (hand?.lock) {
    out.position.set(hand.lock.position, row * 3);
    writeUnitQuat(out.rotation, row * 4, hand.lock.rotation);
    out.scale.set(hand.lock.scale, row * 3);
    return;
  }
  if (p.varier) p.varier.vary(slot, lane.prop[i], p.varied);
  const v = p.varier ? p.varied : null;
  // Props end to end keep what their neighbours rest on: their length and place along are the layout's.
  const along = v && !lane.touch ? v[VARIED.along] : 0;
  const side = (v ? v[VARIED.side] : 0) + (hand?.side ?? 0);
  const walked = along !== 0 || side !== 0 ? stand.moved?.(place, along, side) : null;
  const from: Stand = walked ? standAt(walked, stand.outward) : stand;
  const r = walked ? 0 : place * 3;
  const { position, front, up } = from;
  const fx = front[r];
  const fy = front[r + 1];
  const fz = front[r + 2];
  const ux = up[r];
  const uy = up[r + 1];
  const uz = up[r + 2];
  const lift = facing.lift + (v ? v[VARIED.lift] : 0) + (hand?.lift ?? 0);
  // On the ground it is lifted from there.
  const above = p.ground ? 0 : lift;
  const o = row * 3;
  // Right of the way along is front × up.
  const on = walked ? 0 : along;
  const off = walked ? 0 : side;
  out.position[o] = position[r] + fx * on + (fy * uz - fz * uy) * off + ux * above;
  out.position[o + 1] = position[r + 1] + fy * on + (fz * ux - fx * uz) * off + uy * above;
  out.position[o + 2] = position[r + 2] + fz * on + (fx * uy - fy * ux) * off + uz * above;
  const own = lane.touch ? lane.touch.size[i] : sizeOnPath(lane, place);
  const size = facing.size * own * (v ? v[VARIED.size] : 1) * (hand?.size ?? 1);
  const flips = facing.alternate === 'mirror' && i % 2 === 1;
  const mirrored = flips !== (v !== null && v[VARIED.mirrored] > 0);
  out.scale[o] = size * (v ? v[VARIED.sizeX] : 1) * (mirrored ? -1 : 1);
  out.scale[o + 1] = size * (v ? v[VARIED.sizeY] : 1);
  out.scale[o + 2] = size * (v ? v[VARIED.sizeZ] : 1);
  const turnDeg = hand?.turnDeg ?? 0;
  orientSlot(lane, p, from, r, i, turnDeg, out, row);
  if (!p.ground) return;
  out.before?.position.set(out.position.subarray(o, o + 3), o);
  out.before?.rotation.set(out.rotation.subarray(row * 4, row * 4 + 4), row * 4);
  const orient = (frames: Facings, at: number) => orientSlot(lane, p, frames, at, i, turnDeg, out, row);
  p.ground.settle(out, { row, slot, frames: from, r, lift, orient });
}

/** Writes the rotation of slot `i` for frames whose row begins at `r`. Its varied values stand in `p.varied`. */
function orientSlot(
  lane: Lane,
  p: Placing,
  frames: Facings,
  r: number,
  i: number,
  byHandDeg: number,
  out: Placements,
  row: number,
): void {
  const { facing } = p.run;
  const v = p.varier ? p.varied : null;
  const f = row * 4;
  const otherSide = lane.alternate ? lane.mirrored && i % 2 === 1 : lane.mirrored;
  writeHeading(out.rotation, f, facing, frames, r, p.aim && towards(p.aim, out.position, row * 3), otherSide);
  const turned = facing.alternate === 'turn' && i % 2 === 1 ? 180 : 0;
  turnTipRoll(out.rotation, f, facing.turnDeg + turned, facing.tipDeg, facing.rollDeg);
  if (v) turnTipRoll(out.rotation, f, v[VARIED.turnDeg], v[VARIED.tipDeg], v[VARIED.rollDeg]);
  if (byHandDeg !== 0) turnTipRoll(out.rotation, f, byHandDeg, 0, 0);
}

/** The direction from the foot in row `o` to what it looks at. */
function towards(aim: Aim, position: Float64Array, o: number): Vec3 | null {
  const at: Vec3 = [position[o], position[o + 1], position[o + 2]];
  const to = aim(at);
  return to && [to[0] - at[0], to[1] - at[1], to[2] - at[2]];
}

const sizeOnPath = (lane: Lane, place: number): number =>
  lane.sized ? alongPoints(lane.path, lane.path.size, lane.s[place]) : 1;
