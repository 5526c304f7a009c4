import { pegsSchema, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import type { Ground } from '@/core/arrange/steps/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { newThread, takeId } from '@/core/scene/defaults';
import { findArrangement, freeName, withIds } from './find';
import { describeChange } from './naming';

/** Commands for pegs. */

function findPegs(scene: Scene, id: string): Pegs {
  const found = findArrangement(scene, id);
  if (found.kind !== 'pegs') throw new Error(`"${id}" has no pegs.`);
  return found;
}

/** Puts pegs into an arrangement of pegs, a new one where `id` is null. @returns its id and theirs, spaces between */
export const addPegs = command<{ id: string | null; pegs: Omit<Peg, 'id'>[]; name?: string }>({
  apply(scene, { id, pegs, name = 'Pegs' }) {
    const own = id ? findPegs(scene, id) : newPegs(scene, name);
    const ids = pegs.map((peg) => {
      const made = takeId(scene, 'peg');
      own.pegs.push({ id: made, ...peg });
      return made;
    });
    return [own.id, ...ids].join(' ');
  },
  name: (before, _, { pegs }) => {
    const prop = before.props.find((p) => p.id === pegs[0]?.prop)?.name ?? 'prop';
    return pegs.length === 1 ? `peg “${prop}”` : `put ${pegs.length} pegs`;
  },
});

function newPegs(scene: Scene, name: string): Pegs {
  const made = pegsSchema.parse({
    id: takeId(scene, 'pegs'),
    kind: 'pegs',
    name: freeName(scene.arrangements, name),
    thread: newThread(scene),
  });
  scene.arrangements.push(made);
  return scene.arrangements.at(-1) as Pegs;
}

/** Sets values of several pegs at once, each its own. */
export const setPegs = command<{
  id: string;
  values: Record<string, Partial<Omit<Peg, 'id'>>>;
  title?: string;
}>({
  apply(scene, { id, values }) {
    for (const peg of withIds(findPegs(scene, id).pegs, (p) => p in values))
      Object.assign(peg, values[peg.id]);
  },
  name: (_, __, { values, title = 'change' }) => {
    const n = Object.keys(values).length;
    return n === 1 ? `${title} a peg` : `${title} ${n} pegs`;
  },
});

/** Sets the ground that free pegs stand on. */
export const setPegsGround = command<{ id: string; values: Partial<Ground> }>({
  apply: (scene, { id, values }) => void Object.assign(findPegs(scene, id).ground, values),
  name: (before, _, { id, values }) => describeChange(findPegs(before, id).ground, values),
});

export const movePegs = command<{ id: string; to: Record<string, Vec3> }>({
  apply(scene, { id, to }) {
    for (const peg of withIds(findPegs(scene, id).pegs, (p) => p in to)) peg.position = [...to[peg.id]];
  },
  name: (_, __, { to }) =>
    Object.keys(to).length === 1 ? 'move a peg' : `move ${Object.keys(to).length} pegs`,
});

export const setPeg = command<{ id: string; peg: string; values: Partial<Omit<Peg, 'id'>> }>({
  apply(scene, { id, peg, values }) {
    for (const found of withIds(findPegs(scene, id).pegs, (p) => p === peg)) Object.assign(found, values);
  },
  name: () => 'change a peg',
});

export const removePegs = command<{ id: string; pegs: string[] }>({
  apply(scene, { id, pegs }) {
    const { pegs: list } = findPegs(scene, id);
    const gone = new Set(pegs);
    for (let i = list.length - 1; i >= 0; i--) if (gone.has(list[i].id)) list.splice(i, 1);
  },
  name: (_, __, { pegs }) => (pegs.length === 1 ? 'remove a peg' : `remove ${pegs.length} pegs`),
});
