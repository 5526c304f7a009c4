import type { Peg, Pegs } from '@/core/arrange/pegs/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement } from './find';

/** Commands for pegs. */

function findPegs(scene: Scene, id: string): Pegs {
  const found = findArrangement(scene, id);
  if (found.kind !== 'pegs') throw new Error(`"${id}" has no pegs.`);
  return found;
}

export const movePegs = command<{ id: string; to: Record<string, Vec3> }>({
  apply(scene, { id, to }) {
    for (const peg of findPegs(scene, id).pegs) if (to[peg.id]) peg.position = [...to[peg.id]];
  },
  name: (_, __, { to }) =>
    Object.keys(to).length === 1 ? 'move a peg' : `move ${Object.keys(to).length} pegs`,
});

export const setPeg = command<{ id: string; peg: string; values: Partial<Omit<Peg, 'id'>> }>({
  apply(scene, { id, peg, values }) {
    const found = findPegs(scene, id).pegs.find((p) => p.id === peg);
    if (found) Object.assign(found, values);
  },
  name: () => 'change a peg',
});

export const removePegs = command<{ id: string; pegs: string[] }>({
  apply(scene, { id, pegs }) {
    const found = findPegs(scene, id);
    found.pegs = found.pegs.filter((p) => !pegs.includes(p.id));
  },
  name: (_, __, { pegs }) => (pegs.length === 1 ? 'remove a peg' : `remove ${pegs.length} pegs`),
});
