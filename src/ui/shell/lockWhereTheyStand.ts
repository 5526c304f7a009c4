import { needsOf, surfacesOf, type Arrangement } from '@/core/arrange/registry';
import type { Placements } from '@/core/arrange/result';
import { rowFinder } from '@/core/arrange/rowFinder';
import { slotName } from '@/core/arrange/slotId';
import type { Lock } from '@/core/arrange/steps/lock';
import { surfaceMoves } from '@/core/evaluate/surfaces';
import { lockSlots } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';

/** Locks slots where they stand: what stands on a surface that moves is held to its material. */
export async function lockWhereTheyStand(a: Arrangement, p: Placements, slots: number[]): Promise<void> {
  dispatch(lockSlots, { id: a.id, slots, places: await placesOfSlots(a, p, slots) });
}

/** Where slots stand, by their names: on a surface that moves by its material. Those without a prop are left out. */
export async function placesOfSlots(
  a: Arrangement,
  p: Placements,
  slots: readonly number[],
): Promise<Record<string, Lock>> {
  const row = rowFinder(p);
  const locks = slots.flatMap((slot) => locksOf(p, slot, row(slot)));
  const { surfaces } = useDocument.getState().scene;
  const shown = surfaces.filter((s) => s.visible).map((s) => s.id);
  const stands = new Set([...shown, ...surfacesOf(needsOf(a), shown)]);
  const near = surfaces.filter((s) => stands.has(s.id));
  const moving = near.filter(surfaceMoves).map((s) => s.id);
  const on =
    moving.length === 0
      ? []
      : await engine().locksOn(
          locks.map(([, lock]) => lock),
          near.map((s) => s.id),
          moving,
        );
  return Object.fromEntries(locks.map(([name, lock], i) => [name, { ...lock, ...(on[i] && { on: on[i] }) }]));
}

/** The name of a slot, with where its row stands; none for one that has no prop. */
function locksOf(p: Placements, slot: number, i: number): [string, Lock][] {
  if (i < 0 || p.prop[i] < 0) return [];
  const read = <T>(from: ArrayLike<number>, n: number) =>
    Array.from({ length: n }, (_, k) => from[i * n + k]) as T;
  const lock: Lock = {
    prop: p.props[p.prop[i]],
    s: p.s[i],
    position: read(p.position, 3),
    rotation: read(p.rotation, 4),
    scale: read(p.scale, 3),
  };
  return [[slotName(slot), lock]];
}
