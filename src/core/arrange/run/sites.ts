import { hypot } from '../../math/portable';
import { framesAlong } from '../../curve/frames';
import { alongPoints } from '../../curve/sample';
import { STATE } from '../result';
import type { Vec3 } from '../../math/vec3';
import type { TriMesh } from '../../mesh/triMesh';
import type { Sites } from '../sites';
import { lineNumber } from '../slotId';
import type { Bender } from '../steps/bending';
import type { Facings } from '../steps/facing';
import type { KeptOut } from '../steps/keepOuts';
import { surfaceStand, type Pose, type SurfaceStand } from '../steps/onSurface';
import { rampAt } from '../../math/ramp';
import { shareBetween } from '../steps/ramp';
import { BANK_DEG } from '../steps/schema';
import type { Bends } from '../steps/whichBend';
import type { Lane } from './lane';
import type { Run } from './schema';

/** What the sites of a lane are made with; the same for all lanes of a run. */
export interface Laying {
  run: Run;
  bender: Bender | null;
  bends: Bends | null;
  /** A surface as it stands now. */
  triMesh(id: string): TriMesh | undefined;
}

/** Where each slot of a lane stands: foot, front and up, three numbers each. */
interface Stand extends Facings {
  position: Float64Array;
  /** On a surface: slot i moved on from its place on the path, along the surface. */
  moved?: Sites['moved'];
}

/** The slots of a lane as places to stand on. */
export function sitesOf(lane: Lane, laying: Laying, keptOut: KeptOut | null): Sites {
  const { bends, bender } = laying;
  const { position, front, up, outward, moved } = standOf(lane, laying);
  const { touch, path, sized } = lane;
  const { turnEachDeg } = laying.run.facing;
  return {
    slot: lane.id,
    prop: lane.prop,
    s: lane.s,
    position,
    front,
    up,
    outward,
    lean: () => leanOf(laying.run.facing),
    ...(moved && { moved }),
    ...(touch
      ? { size: (i: number) => touch.size[i] }
      : sized && { size: (_: number, place: number) => alongPoints(path, path.size, lane.at[place]) }),
    odd: (i) => i % 2 === 1,
    ...(turnEachDeg !== 0 && { turn: (i: number) => i * turnEachDeg }),
    ...(lane.mirrored && { otherSide: (i: number) => !lane.alternate || i % 2 === 1 }),
    past: lane.past,
    along: {
      length: lane.measure.length,
      closed: path.closed,
      line: lineNumber(lane.part, lane.stroke),
      row: lane.row,
    },
    around: path.closed && laying.run.spacing.insetStart <= 0 && laying.run.spacing.insetEnd <= 0,
    ...(lane.state && { state: lane.state }),
    keptOut:
      keptOut &&
      ((i) => keptOut(lane.s[i], [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]], lane.id[i])),
    endToEnd: touch !== undefined,
    nudged: true,
    ...(bends &&
      bender && {
        settled({ i, place, row }, out) {
          if (bends(lane.id[i], lane.prop[i]) && out.state[row] === STATE.placed)
            bender.bend(path, lane.at[place], out, row, lane.cutAt);
        },
      }),
  };
}

/** How far it goes with what it stands on, wherever it has travelled to. */
const leanOf = ({ posture, lean }: Run['facing']): number =>
  posture === 'upright' ? 0 : posture === 'surface' ? lean : 1;

/** How far slot i of a lane stands to the right of its path. */
function asideOf(lane: Lane, run: Run): ((i: number) => number) | null {
  const fixed = run.facing.side + lane.offset;
  const ramp = run.facing.sideRamp;
  if (fixed === 0 && ramp.length === 0 && !lane.alternate) return null;
  const share = shareBetween(run.spacing, lane.measure.length);
  return (i) =>
    (lane.alternate && i % 2 === 1 ? run.facing.side - lane.offset : fixed) +
    rampAt(ramp, share(lane.s[i]), 0);
}

/** Frames of a lane with its offset to the side; for props end to end those of their chords. */
function standOf(lane: Lane, p: Laying): Stand {
  const { path, touch, outward } = lane;
  const { run } = p;
  const { posture } = run.facing;
  const n = lane.id.length;
  const frames = framesAlong(
    path,
    lane.at,
    posture === 'surface' ? 'slope' : posture,
    BANK_DEG[run.facing.bankFrom],
  );
  const { front, up } = frames;
  const aside = asideOf(lane, run);
  const triMesh = posture === 'surface' && path.on ? p.triMesh(path.on.surface) : undefined;
  // Bent ones lie on the path itself, not on chords.
  const position = touch && !run.facing.bend ? touch.position.slice() : frames.position;
  const stand: Stand = { position, front, up, outward };
  if (triMesh)
    standOnSurface(stand, lane, surfaceStand(path, triMesh, lane.at, frames, run.facing.lean), aside);
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
  if (!aside || triMesh) return stand;
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
  stand.moved = (i, along, side, out) => {
    if (!on.has(i)) return false;
    on.moved(i, along, side + (aside?.(i) ?? 0), out);
    return true;
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
