import type { PinHow } from '@/core/mesh/pinning';
import type { Peg } from '@/core/arrange/pegs/schema';
import { quatRotate } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { setPeg } from '@/store/commands/pegs';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { say } from '../../../uiState';
import { standingNow } from './pegMoves';

/** Places of pegs as they are typed: x, y, z of the scene; u and v of the surface that they are pinned to. */

const AXES = ['x', 'y', 'z'] as const;

/**
 * Puts one coordinate of a peg. A free one stands there. A pinned one stays pinned: across its surface it goes to the
 * place of it with that coordinate and the third as it is; away from its surface it is lifted.
 */
export async function putCoordinate(
  arrangement: string,
  peg: Peg,
  axis: 0 | 1 | 2,
  value: number,
  key?: string,
): Promise<void> {
  const put = (values: Partial<Omit<Peg, 'id'>>) =>
    dispatch(setPeg, { id: arrangement, peg: peg.id, values }, key);
  const there = (p: Vec3): Vec3 => p.map((v, i) => (i === axis ? value : v)) as Vec3;
  const { pin } = peg;
  if (!pin) return void put({ position: there(peg.position) });
  const [{ position, rotation }] = standingNow({ id: arrangement }, [peg]);
  const up = quatRotate(rotation, [0, 1, 0]);
  const steepest = [0, 1, 2].reduce((a, b) => (Math.abs(up[b]) > Math.abs(up[a]) ? b : a)) as 0 | 1 | 2;
  if (steepest === axis)
    return void put({ pin: { ...pin, lift: pin.lift + (value - position[axis]) / up[axis] } });
  const foot = there(position).map((v, i) => v - up[i] * pin.lift) as Vec3;
  const how: PinHow = AXES[steepest];
  const { lift, lean } = pin;
  const front = quatRotate(rotation, [0, 0, 1]);
  const [found] = await engine().pinPlaces([{ at: foot, front, lift, lean }], how);
  if (found) put({ pin: found, position: there(position) });
  else say('No surface lies there. The peg stays where it was; let it go of its surface to put it anywhere.');
}

/** Puts a pinned peg to u and v of its surface's texture. */
export async function putUv(
  arrangement: string,
  peg: Peg,
  uv: [number, number],
  key?: string,
): Promise<void> {
  const { pin } = peg;
  if (!pin) return;
  const [{ rotation }] = standingNow({ id: arrangement }, [peg]);
  const { surface, lift, lean } = pin;
  const front = quatRotate(rotation, [0, 0, 1]);
  const found = await engine().pinAtUv(surface, uv, { front, lift, lean });
  if (found) dispatch(setPeg, { id: arrangement, peg: peg.id, values: found }, key);
  else sayNothingAt(surface, uv);
}

export function sayNothingAt(surface: string, [u, v]: [number, number]): void {
  const name = useDocument.getState().scene.surfaces.find((s) => s.id === surface)?.name ?? '?';
  const short = (x: number) => Number(x.toFixed(4));
  say(`“${name}” has nothing at u ${short(u)}, v ${short(v)}. Mostly both run from 0 to 1.`);
}
