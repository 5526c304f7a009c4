import type { Arrangement } from '@/core/arrange/registry';
import type { Peg } from '@/core/arrange/pegs/schema';
import { STATE } from '@/core/arrange/result';
import { freeze } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement } from '@/store/selection';
import { say } from '../uiState';
import { plural } from '@/words/numbers';

/** What an arrangement places right now as single pegs, each with its slot and whether it is bent or cut. */
export function placedAsPegs(a: Arrangement): { slot: number; isShaped: boolean; peg: Omit<Peg, 'id'> }[] {
  const p = engine().state.result.arrangements.get(a.id)?.placements;
  if (!p) return [];
  const read = (list: ArrayLike<number>, i: number, n: number) =>
    Array.from({ length: n }, (_, k) => list[i * n + k]);
  const rows = [...Array(p.count).keys()].filter((i) => p.state[i] === STATE.placed);
  return rows.map((i) => ({
    slot: p.slot[i],
    isShaped: (p.shape?.[i] ?? -1) >= 0,
    peg: {
      prop: p.props[p.prop[i]],
      pin: null,
      position: read(p.position, i, 3) as [number, number, number],
      rotation: read(p.rotation, i, 4) as [number, number, number, number],
      scale: read(p.scale, i, 3) as [number, number, number],
      ...(p.tint && { tint: read(p.tint, i, 3) as [number, number, number] }),
    },
  }));
}

/**
 * Makes single pegs of what an arrangement places right now. What was made for its slots alone, bent meshes and
 * members that are cut, pegs do not have: that is said.
 */
export function freezeIntoPegs(a: Arrangement): void {
  const placed = placedAsPegs(a);
  dispatch(freeze, { id: a.id, pegs: placed.map(({ peg }) => peg) });
  selectArrangement(a.id);
  const shaped = placed.filter(({ isShaped }) => isShaped).length;
  const shapes =
    shaped > 0 ? ` ${plural(shaped, 'prop')} that were bent or cut have their own shape again.` : '';
  say(`“${a.name}” is now ${plural(placed.length, 'single peg')}.${shapes} Undo makes it what it was.`);
}
