import { inBlocks, pegById } from '@/core/arrange/pegs/blocks';
import { BLOCK_PEGS, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { newArrangement } from '@/core/arrange/registry';
import type { Vec3 } from '@/core/math/vec3';
import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { newThread, takeId } from '@/core/scene/defaults';
import { findWith, freeName } from './find';

/** Commands for pegs. */

const findPegs = (scene: Scene, id: string): Pegs => findWith(scene, id, 'pegs');

/** Where pegs are in their arrangement, with each. They may be among many: no draft is made of all. */
function placesOf(scene: Scene, id: string, ids: readonly string[]) {
  const arrangement = findPegs(scene, id);
  const at = scene.arrangements.indexOf(arrangement);
  return ids.flatMap((one) => {
    const found = pegById(arrangement.pegs, one);
    if (!found) return [];
    const path: Patch['path'] = ['arrangements', at, 'pegs', found.block, found.index];
    return [{ peg: found.peg, path }];
  });
}

/** Sets values of pegs, each its own; those that are undefined go. */
const setting = (scene: Scene, id: string, values: Record<string, Partial<Omit<Peg, 'id'>>>): Patch[] =>
  placesOf(scene, id, Object.keys(values)).flatMap(({ peg, path }) =>
    Object.entries(letGo(values[peg.id])).flatMap(([field, value]): Patch[] => {
      if (value !== undefined)
        return [{ op: field in peg ? 'replace' : 'add', path: [...path, field], value }];
      return field in peg ? [{ op: 'remove', path: [...path, field] }] : [];
    }),
  );

/** What is put to another place, or pinned, sits no longer on what it sat on. */
const letGo = (values: Partial<Omit<Peg, 'id'>>): Partial<Omit<Peg, 'id'>> =>
  ('position' in values || 'pin' in values) && !('sits' in values) ? { ...values, sits: undefined } : values;

/** Puts pegs into an arrangement of pegs, a new one where `id` is null. @returns its id and theirs, spaces between */
export const addPegs = patching<{ id: string | null; pegs: Omit<Peg, 'id'>[]; name?: string }>({
  patches(scene, { id, pegs, name = 'Pegs' }) {
    // Ids as `takeId` gives them, one after the other; the new arrangement takes the first.
    const ids = { nextId: scene.nextId };
    const own = id ?? takeId(ids, 'pegs');
    const made = pegs.map((peg): Peg => ({ id: takeId(ids, 'peg'), ...peg }));
    const at = id ? scene.arrangements.indexOf(findPegs(scene, id)) : scene.arrangements.length;
    const put: Patch[] = id
      ? adding(findPegs(scene, id).pegs, made).map((patch) => ({
          ...patch,
          path: ['arrangements', at, 'pegs', ...patch.path],
        }))
      : [
          {
            op: 'add',
            path: ['arrangements', at],
            value: { ...newPegs(scene, own, name), pegs: inBlocks(made) },
          },
        ];
    return {
      made: [own, ...made.map((peg) => peg.id)].join(' '),
      patches: [{ op: 'replace', path: ['nextId'], value: ids.nextId }, ...put],
    };
  },
  name: (before, _, { pegs }) => {
    const prop = before.props.find((p) => p.id === pegs[0]?.prop)?.name ?? 'prop';
    return pegs.length === 1 ? `peg “${prop}”` : `put ${pegs.length} pegs`;
  },
});

/** What puts pegs behind those that are there: into the last block as far as it has room, then into new ones. */
function adding(blocks: Pegs['pegs'], pegs: Peg[]): Patch[] {
  const last = blocks.at(-1);
  const room = last ? Math.min(pegs.length, BLOCK_PEGS - last.length) : 0;
  const into = pegs
    .slice(0, room)
    .map((value, i): Patch => ({ op: 'add', path: [blocks.length - 1, last!.length + i], value }));
  const more = inBlocks(pegs.slice(room));
  return [...into, ...more.map((value, b): Patch => ({ op: 'add', path: [blocks.length + b], value }))];
}

const newPegs = (scene: Scene, id: string, name: string): Pegs =>
  newArrangement('pegs', { id, name: freeName(scene.arrangements, name), thread: newThread(scene) });

/** Sets values of several pegs at once, each its own. */
export const setPegs = patching<{
  id: string;
  values: Record<string, Partial<Omit<Peg, 'id'>>>;
  title?: string;
}>({
  patches: (scene, { id, values }) => setting(scene, id, values),
  name: (_, __, { values, title = 'change' }) => {
    const n = Object.keys(values).length;
    return n === 1 ? `${title} a peg` : `${title} ${n} pegs`;
  },
});

export const movePegs = patching<{ id: string; to: Record<string, Vec3> }>({
  patches: (scene, { id, to }) =>
    setting(
      scene,
      id,
      Object.fromEntries(Object.entries(to).map(([peg, position]) => [peg, { position: [...position] }])),
    ),
  name: (_, __, { to }) =>
    Object.keys(to).length === 1 ? 'move a peg' : `move ${Object.keys(to).length} pegs`,
});

export const setPeg = patching<{ id: string; peg: string; values: Partial<Omit<Peg, 'id'>> }>({
  patches: (scene, { id, peg, values }) => setting(scene, id, { [peg]: values }),
  name: () => 'change a peg',
});
