import type { ToPin } from '@/core/mesh/pinning';
import { pegNumber, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { rowFinder } from '@/core/arrange/rowFinder';
import { quatRotate, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { addPegs, setPegs } from '@/store/commands/pegs';
import { groupPegs } from '@/store/commands/riders';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { selectSlots } from '@/store/selection';
import { say } from '../../../uiState';
import { aligned, distributed, facingLast, inRow, mirrored, seatOn, varied, type Standing } from './standing';

/** What is done with several pegs at once. Those that are pinned are pinned again where they come to. */

export function standingNow(a: Pick<Pegs, 'id'>, pegs: readonly Peg[]): Standing[] {
  const p = engine().state.result.arrangements.get(a.id)?.placements;
  const rowOf = p ? rowFinder(p) : () => -1;
  return pegs.map((peg) => {
    const row = rowOf(pegNumber(peg.id));
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
  const riders = standing.slice(0, -1).map((p) => ({ peg: p.peg.id, values: seatOn(leader, p) }));
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
    // A copy stands beside what it is a copy of, and so on nothing.
    pegs: moved.map(({ peg: { id: _, sits: __, ...rest } }, i) => ({ ...rest, ...values[i] })),
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

/** Lets pegs go of their surface or of what they sit on; they stay just where they stand. */
export const freePegs = (a: Pegs, pegs: Standing[]): unknown =>
  dispatch(setPegs, {
    id: a.id,
    title: 'let go',
    values: Object.fromEntries(
      pegs.map(({ peg, position, rotation }) => [peg.id, { pin: null, position, rotation }]),
    ),
  });

export const distribute = (a: Pegs, pegs: Standing[]) => change(a, distributed(pegs), 'distribute');
export const align = (a: Pegs, pegs: Standing[], axis: 0 | 1 | 2) => change(a, aligned(pegs, axis), 'align');
export const faceLast = (a: Pegs, pegs: Standing[]) => change(a, facingLast(pegs), 'turn');
export const vary = (a: Pegs, pegs: Standing[], seed: number, turnDeg: number, size: number) =>
  change(a, varied(pegs, seed, turnDeg, size), 'vary');
export const mirror = (a: Pegs, pegs: Standing[], axis: 0 | 2, about: number) =>
  copy(a, mirrored(pegs, axis, about));
export const array = (a: Pegs, pegs: Standing[], count: number, step: Vec3) =>
  copy(a, inRow(pegs, count, step));
