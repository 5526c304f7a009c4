import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { called } from './find';

/** Commands for the order and the groups of the lists. */

const LISTS = ['props', 'paths', 'surfaces', 'arrangements', 'masks'] as const;
type List = (typeof LISTS)[number];
type Node = Scene[List][number];

const nodesIn = (scene: Scene, list: List): readonly Node[] => scene[list];

/** Puts nodes of a list at a place of it, all with one group: `undefined` leaves theirs, '' takes them out of it. */
function placing(
  scene: Scene,
  list: List,
  ids: readonly string[],
  before: string | null,
  group?: string,
): Patch[] {
  const was = nodesIn(scene, list);
  const grouped = (n: Node): Node => {
    if (group === undefined || (n.group ?? '') === group) return n;
    const { group: _, ...rest } = n;
    return (group === '' ? rest : { ...rest, group }) as Node;
  };
  const moving = was.filter((n) => ids.includes(n.id)).map(grouped);
  const rest = was.filter((n) => !ids.includes(n.id));
  const found = before === null ? -1 : rest.findIndex((n) => n.id === before);
  const at = found < 0 ? rest.length : found;
  const now = [...rest.slice(0, at), ...moving, ...rest.slice(at)];
  if (now.some((n, i) => n.id !== was[i].id)) {
    const gone = was.flatMap((n, i): Patch[] =>
      ids.includes(n.id) ? [{ op: 'remove', path: [list, i] }] : [],
    );
    return [
      ...gone.reverse(),
      ...moving.map((value, i): Patch => ({ op: 'add', path: [list, at + i], value })),
    ];
  }
  // In its place already: what is long in a node is not sent about for its group.
  return now.flatMap((n, i): Patch[] => {
    const path = [list, i, 'group'];
    if (n.group === was[i].group) return [];
    if (n.group === undefined) return [{ op: 'remove', path }];
    return [{ op: was[i].group === undefined ? 'add' : 'replace', path, value: n.group }];
  });
}

/** Puts nodes before another one of their list, or at its end, and into its group where one is given. */
export const moveNodes = patching<{ ids: string[]; before: string | null; group?: string }>({
  patches: (scene, { ids, before, group }) =>
    LISTS.filter((list) => nodesIn(scene, list).some((n) => ids.includes(n.id))).flatMap((list) =>
      placing(scene, list, ids, before, group),
    ),
  name: (before, _, { ids }) => `move ${called(before, ids)} in the list`,
});

/**
 * Moves nodes of one list one row up or down. A row at the edge of its group leaves it there, and one beside a group
 * goes into it.
 */
export const stepNodes = patching<{ ids: string[]; by: 1 | -1 }>({
  patches: (scene, { ids, by }) =>
    LISTS.flatMap((list): Patch[] => {
      const all = nodesIn(scene, list);
      const chosen = all.filter((n) => ids.includes(n.id));
      if (chosen.length === 0) return [];
      const edge = all.indexOf(by < 0 ? chosen[0] : chosen[chosen.length - 1]);
      const beside = all.at(edge + by < 0 ? all.length : edge + by);
      const [own, other] = [all[edge].group ?? '', beside?.group ?? ''];
      const stay = chosen.map((n) => n.id);
      if (own !== other) {
        // It stays where it is: only what it is in becomes another.
        const next = all.slice(edge).find((n) => !stay.includes(n.id));
        return placing(scene, list, stay, next?.id ?? null, own === '' ? other : '');
      }
      if (!beside) return [];
      const behind = all.slice(edge + 2).find((n) => !stay.includes(n.id));
      return placing(scene, list, stay, by < 0 ? beside.id : (behind?.id ?? null));
    }),
  name: (before, _, { ids, by }) => `move ${called(before, ids)} ${by < 0 ? 'up' : 'down'} in the list`,
});

/** Gathers nodes under a name, where the first of them stands or behind those that are under it; '' takes them out. */
export const groupNodes = patching<{ ids: string[]; group: string }>({
  patches: (scene, { ids, group }) =>
    LISTS.flatMap((list): Patch[] => {
      const all = nodesIn(scene, list);
      const chosen = all.filter((n) => ids.includes(n.id) && (n.group ?? '') !== group);
      if (chosen.length === 0) return [];
      const stay = new Set(chosen.map((n) => n.id));
      const fellows = all.filter((n) => n.group === (group === '' ? chosen[0].group : group));
      const own = fellows.filter((n) => !stay.has(n.id));
      // Whoever leaves a group that stays stands behind it.
      const anchor = own.at(-1) ?? null;
      const from = anchor ? all.indexOf(anchor) + 1 : all.indexOf(chosen[0]);
      const next = all.slice(from).find((n) => !stay.has(n.id));
      return placing(scene, list, [...stay], next?.id ?? null, group);
    }),
  name: (before, _, { ids, group }) =>
    group === '' ? `take ${called(before, ids)} out of the group` : `group ${called(before, ids)}`,
});

/** Gives a group another name in all lists; one that is there already takes it in. */
export const renameGroup = patching<{ from: string; to: string }>({
  patches: (scene, { from, to }) =>
    from === to || to === ''
      ? []
      : groupNodes.patches(scene, {
          ids: LISTS.flatMap((list) => nodesIn(scene, list))
            .filter((n) => n.group === from)
            .map((n) => n.id),
          group: to,
        }),
  name: (_, __, { from, to }) => `group “${from}” becomes “${to}”`,
});
