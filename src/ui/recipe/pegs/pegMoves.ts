import type { ToPin } from '@/core/arrange/pegs/pinning';
import { pegNumber } from '@/core/arrange/pegs/evaluate';
import type { Peg, Pegs } from '@/core/arrange/pegs/schema';
import { channel, random01 } from '@/core/math/random';
import {
  DEG,
  quatFromUpFront,
  quatMultiply,
  quatRotate,
  quatTurnTipRoll,
  turnTipRollOf,
  type Quat,
} from '@/core/math/quat';
import { normalize, sub, type Vec3 } from '@/core/math/vec3';
import { addPegs, setPegs } from '@/store/commands/pegs';
import { groupPegs } from '@/store/commands/riders';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { selectSlots } from '@/store/selection';
import { say } from '../../uiState';

/** What is done with several pegs at once. Those that are pinned are pinned again where they come to. */

/** A peg as it stands right now, its surface's motion included. */
export interface Standing {
  peg: Peg;
  position: Vec3;
  rotation: Quat;
}

export function standingNow(a: Pegs, pegs: readonly Peg[]): Standing[] {
  const p = engine().state.result.arrangements.get(a.id)?.placements;
  return pegs.map((peg) => {
    const row = p ? p.slot.indexOf(pegNumber(peg.id)) : -1;
    if (row < 0) return { peg, position: peg.position, rotation: peg.rotation };
    return {
      peg,
      position: [...p!.position.subarray(row * 3, row * 3 + 3)] as Vec3,
      rotation: [...p!.rotation.subarray(row * 4, row * 4 + 4)] as Quat,
    };
  });
}

const toPin = ({ peg, position, rotation }: Standing): ToPin => ({
  at: position,
  front: quatRotate(rotation, [0, 0, 1]),
  lift: peg.pin?.lift,
  lean: peg.pin?.lean,
});

/** Where moved pegs come to stand: pinned ones on the nearest place of a surface, free ones just there. */
async function settled(moved: Standing[]): Promise<Partial<Peg>[]> {
  const pins = await engine().pinPlaces(moved.map(toPin), 'nearest');
  return moved.map(({ peg, position, rotation }, i) => ({
    position,
    rotation,
    scale: peg.scale,
    pin: peg.pin ? pins[i] : null,
  }));
}

/** The last one leads; the others ride on it, just where they stand to it. */
export function groupUnderLast(a: Pegs, standing: Standing[]): void {
  const leader = standing.at(-1);
  if (!leader) return;
  const [x, y, z, w] = leader.rotation;
  const back: Quat = [-x, -y, -z, w];
  const riders = standing.slice(0, -1).map(({ peg, position, rotation }) => {
    const away = quatRotate(back, sub(position, leader.position));
    const [turn, tip, roll] = turnTipRollOf(quatMultiply(back, rotation));
    const values = {
      props: [{ prop: peg.prop, weight: 1 }],
      seat: 'foot' as const,
      offset: away.map((v, k) => v / leader.peg.scale[k]) as Vec3,
      turnDeg: turn / DEG,
      tipDeg: tip / DEG,
      rollDeg: roll / DEG,
      size: Math.abs(peg.scale[1]),
    };
    return { peg: peg.id, values };
  });
  dispatch(groupPegs, { id: a.id, leader: leader.peg.id, riders });
  selectSlots(a.id, [pegNumber(leader.peg.id)]);
}

async function change(a: Pegs, moved: Standing[], title: string): Promise<void> {
  const values = await settled(moved);
  dispatch(setPegs, {
    id: a.id,
    title,
    values: Object.fromEntries(moved.map(({ peg }, i) => [peg.id, values[i]])),
  });
}

async function copy(a: Pegs, moved: Standing[]): Promise<void> {
  const values = await settled(moved);
  const made = dispatch(addPegs, {
    id: a.id,
    pegs: moved.map(({ peg: { id: _, ...rest } }, i) => ({ ...rest, ...values[i] })),
  });
  if (made) selectSlots(a.id, made.split(' ').slice(1).map(pegNumber));
}

/** Pins pegs to the nearest surface, or to what lies straight below them; says which find none, and selects those. */
export async function pinPegs(a: Pegs, pegs: Standing[], how: 'nearest' | 'down'): Promise<void> {
  const pins = await engine().pinPlaces(pegs.map(toPin), how);
  const found = pegs.flatMap(({ peg }, i) => (pins[i] ? [[peg.id, { pin: pins[i] }] as const] : []));
  if (found.length) dispatch(setPegs, { id: a.id, title: 'pin', values: Object.fromEntries(found) });
  const without = pegs.filter((_, i) => !pins[i]);
  if (without.length === 0) return;
  selectSlots(
    a.id,
    without.map(({ peg }) => pegNumber(peg.id)),
  );
  say(
    `${without.length} of ${pegs.length} find no surface and are selected. Move them, or make a surface there.`,
  );
}

/** Lets pegs go of their surface; they stay just where they stand. */
export const freePegs = (a: Pegs, pegs: Standing[]): unknown =>
  dispatch(setPegs, {
    id: a.id,
    title: 'let go',
    values: Object.fromEntries(
      pegs.map(({ peg, position, rotation }) => [peg.id, { pin: null, position, rotation }]),
    ),
  });

/** Even distances between the first and the last, in their order. */
export function distribute(a: Pegs, pegs: Standing[]): Promise<void> {
  const [from, to] = [pegs[0].position, pegs[pegs.length - 1].position];
  const moved = pegs.map((p, i) => {
    const t = i / (pegs.length - 1);
    return { ...p, position: from.map((v, k) => v + (to[k] - v) * t) as Vec3 };
  });
  return change(a, moved, 'distribute');
}

/** All on one coordinate with the first. */
export const align = (a: Pegs, pegs: Standing[], axis: 0 | 1 | 2): Promise<void> =>
  change(
    a,
    pegs.map((p) => ({
      ...p,
      position: p.position.map((v, k) => (k === axis ? pegs[0].position[axis] : v)) as Vec3,
    })),
    'align',
  );

/** All but the last turn to face it, about their own up. */
export function faceLast(a: Pegs, pegs: Standing[]): Promise<void> {
  const to = pegs[pegs.length - 1].position;
  const moved = pegs.slice(0, -1).map((p) => {
    const up = quatRotate(p.rotation, [0, 1, 0]);
    const way = sub(to, p.position);
    const along = way[0] * up[0] + way[1] * up[1] + way[2] * up[2];
    const front = normalize(way.map((v, k) => v - up[k] * along) as Vec3, quatRotate(p.rotation, [0, 0, 1]));
    return { ...p, rotation: quatFromUpFront(up, front) };
  });
  return change(a, moved, 'turn');
}

const TURN = channel('pegs.turn');
const SIZE = channel('pegs.size');

/** Turns and sizes each by chance; the same number again gives the same. */
export function vary(a: Pegs, pegs: Standing[], seed: number, turnDeg: number, size: number): Promise<void> {
  const moved = pegs.map((p) => {
    const n = pegNumber(p.peg.id);
    const turn = (random01(seed, n, TURN) * 2 - 1) * turnDeg * DEG;
    const k = 1 + (random01(seed, n, SIZE) * 2 - 1) * size;
    return {
      ...p,
      peg: { ...p.peg, scale: p.peg.scale.map((s) => s * k) as Vec3 },
      rotation: quatMultiply(p.rotation, quatTurnTipRoll(turn, 0, 0)),
    };
  });
  return change(a, moved, 'vary');
}

/** Mirrored copies, across the upright plane through the first one (or through 0). */
export function mirror(a: Pegs, pegs: Standing[], axis: 0 | 2, about: number): Promise<void> {
  const flip = (v: Vec3): Vec3 => v.map((c, k) => (k === axis ? -c : c)) as Vec3;
  const moved = pegs.map((p) => ({
    peg: { ...p.peg, scale: [-p.peg.scale[0], p.peg.scale[1], p.peg.scale[2]] as Vec3 },
    position: p.position.map((c, k) => (k === axis ? 2 * about - c : c)) as Vec3,
    rotation: quatFromUpFront(
      flip(quatRotate(p.rotation, [0, 1, 0])),
      flip(quatRotate(p.rotation, [0, 0, 1])),
    ),
  }));
  return copy(a, moved);
}

/** Copies in a row: each a step further on. */
export const array = (a: Pegs, pegs: Standing[], count: number, step: Vec3): Promise<void> =>
  copy(
    a,
    Array.from({ length: count }, (_, i) =>
      pegs.map((p) => ({
        ...p,
        position: p.position.map((v, k) => v + step[k] * (i + 1)) as Vec3,
      })),
    ).flat(),
  );
