import { pegNumber, type Peg } from '@/core/arrange/pegs/schema';
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

/** Where pegs come to stand that are moved together. Nothing is changed here. */

/** A peg as it stands right now, its surface's motion included. */
export interface Standing {
  peg: Peg;
  position: Vec3;
  rotation: Quat;
}

/** Even distances between the first and the last, in their order. */
export function distributed(pegs: Standing[]): Standing[] {
  const [from, to] = [pegs[0].position, pegs[pegs.length - 1].position];
  return pegs.map((p, i) => {
    const t = i / (pegs.length - 1);
    return { ...p, position: from.map((v, k) => v + (to[k] - v) * t) as Vec3 };
  });
}

/** All on one coordinate with the first. */
export const aligned = (pegs: Standing[], axis: 0 | 1 | 2): Standing[] =>
  pegs.map((p) => ({
    ...p,
    position: p.position.map((v, k) => (k === axis ? pegs[0].position[axis] : v)) as Vec3,
  }));

/** All but the last, turned to face it about their own up. */
export function facingLast(pegs: Standing[]): Standing[] {
  const to = pegs[pegs.length - 1].position;
  return pegs.slice(0, -1).map((p) => {
    const up = quatRotate(p.rotation, [0, 1, 0]);
    const way = sub(to, p.position);
    const along = way[0] * up[0] + way[1] * up[1] + way[2] * up[2];
    const front = normalize(way.map((v, k) => v - up[k] * along) as Vec3, quatRotate(p.rotation, [0, 0, 1]));
    return { ...p, rotation: quatFromUpFront(up, front) };
  });
}

const TURN = channel('pegs.turn');
const SIZE = channel('pegs.size');

/** Each turned and sized by chance, up to `turnDeg` and a share `size` either way; the same seed gives the same. */
export const varied = (pegs: Standing[], seed: number, turnDeg: number, size: number): Standing[] =>
  pegs.map((p) => {
    const n = pegNumber(p.peg.id);
    const turn = (random01(seed, n, TURN) * 2 - 1) * turnDeg * DEG;
    const k = 1 + (random01(seed, n, SIZE) * 2 - 1) * size;
    return {
      ...p,
      peg: { ...p.peg, scale: p.peg.scale.map((s) => s * k) as Vec3 },
      rotation: quatMultiply(p.rotation, quatTurnTipRoll(turn, 0, 0)),
    };
  });

/** Mirrored across the upright plane through `about` on an axis. */
export function mirrored(pegs: Standing[], axis: 0 | 2, about: number): Standing[] {
  const flip = (v: Vec3): Vec3 => v.map((c, k) => (k === axis ? -c : c)) as Vec3;
  return pegs.map((p) => ({
    peg: { ...p.peg, scale: [-p.peg.scale[0], p.peg.scale[1], p.peg.scale[2]] as Vec3 },
    position: p.position.map((c, k) => (k === axis ? 2 * about - c : c)) as Vec3,
    rotation: quatFromUpFront(
      flip(quatRotate(p.rotation, [0, 1, 0])),
      flip(quatRotate(p.rotation, [0, 0, 1])),
    ),
  }));
}

/** Copies in a row: each a step further on. */
export const inRow = (pegs: Standing[], count: number, step: Vec3): Standing[] =>
  Array.from({ length: count }, (_, i) =>
    pegs.map((p) => ({ ...p, position: p.position.map((v, k) => v + step[k] * (i + 1)) as Vec3 })),
  ).flat();

/** How a peg sits on another one, so that it rides there just as it stands: riders' own settings. */
export function seatOn(leader: Standing, { peg, position, rotation }: Standing) {
  const [x, y, z, w] = leader.rotation;
  const back: Quat = [-x, -y, -z, w];
  const away = quatRotate(back, sub(position, leader.position));
  const [turn, tip, roll] = turnTipRollOf(quatMultiply(back, rotation));
  return {
    props: [{ prop: peg.prop, weight: 1 }],
    seat: 'foot' as const,
    offset: away.map((v, k) => v / leader.peg.scale[k]) as Vec3,
    turnDeg: turn / DEG,
    tipDeg: tip / DEG,
    rollDeg: roll / DEG,
    size: Math.abs(peg.scale[1]),
  };
}
