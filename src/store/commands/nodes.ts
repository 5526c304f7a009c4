import { has, withoutProp, type Arrangement } from '@/core/arrange/registry';
import type { Thread } from '@/core/arrange/base';
import { clip, pasting, type Clipping } from '@/core/scene/clipping';
import { patchesBetween, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { called } from './find';
import { keptNumbers, type LinkNumbers } from './links';

/** Commands for nodes of any sort, one or several at once: props, paths, surfaces and arrangements by their ids. */

/** Fields of the nodes of a list that are to be others than they are. */
const setting = (
  scene: Scene,
  list: 'arrangements' | 'paths' | 'surfaces',
  field: 'visible' | 'thread',
  valueOf: (id: string) => unknown,
): Patch[] =>
  scene[list].flatMap((n, i): Patch[] => {
    const value = valueOf(n.id);
    return value === undefined || (n as Record<string, unknown> & typeof n)[field] === value
      ? []
      : [{ op: 'replace', path: [list, i, field], value }];
  });

/** Puts what was copied into the scene. @param key of this scene @param aside metres by id, where they would lie on their originals */
export const paste = patching<{ clipping: Clipping; key: string; aside?: Record<string, number> }>({
  patches(scene, { clipping, key, aside }) {
    const { made, patches } = pasting(scene, clipping, key, aside);
    return { made: made.join(' '), patches };
  },
  name: (_, __, { clipping }) => `paste ${called(clipping.scene, clipping.chosen)}`,
});

/** A copy of each beside it; what stands on another one that is copied stands on the copy. */
export const duplicateNodes = patching<{ ids: string[]; aside?: Record<string, number> }>({
  patches(scene, { ids, aside }) {
    const { made, patches } = pasting(scene, clip(scene, ids, ''), '', aside);
    return { made: made.join(' '), patches };
  },
  name: (before, _, { ids }) => `duplicate ${called(before, ids)}`,
});

/** What is in the bundles that some props are, and in no other: it goes with them. */
function heldOnlyBy({ props, bundles }: Scene, ids: readonly string[]): string[] {
  const gone = new Set(
    props.flatMap((p) => (ids.includes(p.id) && p.mesh.source === 'bundle' ? [p.mesh.bundle] : [])),
  );
  if (gone.size === 0) return [];
  const elsewhere = new Set(bundles.flatMap((b) => (gone.has(b.id) ? [] : b.members.map((m) => m.id))));
  return bundles
    .flatMap((b) => (gone.has(b.id) ? b.members.map((m) => m.id) : []))
    .filter((id) => !elsewhere.has(id));
}

/** The bundles that are left, without what is gone; those that held none of it keep their identity. */
function bundlesWithout({ props, bundles }: Scene, gone: ReadonlySet<string>): Scene['bundles'] {
  const without = new Set(
    props.flatMap((p) => (gone.has(p.id) && p.mesh.source === 'bundle' ? [p.mesh.bundle] : [])),
  );
  return bundles.flatMap((b) => {
    if (without.has(b.id)) return [];
    return b.members.some((m) => gone.has(m.id))
      ? [{ ...b, members: b.members.filter((m) => !gone.has(m.id)) }]
      : [b];
  });
}

/**
 * Removes nodes. Props go out of everything that places them; runs whose path goes keep the rest of their recipe and
 * ask for another one.
 * @param numbers what links to them came to last: from then on those serve
 */
export const removeNodes = patching<{ ids: string[]; numbers?: LinkNumbers }>({
  patches(scene, { ids, numbers = [] }) {
    const gone = new Set([...ids, ...heldOnlyBy(scene, ids)]);
    const stays = (n: { id: string }) => !gone.has(n.id);
    const props = scene.props.filter((p) => gone.has(p.id));
    const paths = scene.paths.filter((p) => gone.has(p.id));
    const without = (a: Arrangement): Arrangement => {
      let left = a;
      for (const { id } of props) left = withoutProp(left, id);
      if (has(left, 'paths') && left.paths.some((p) => gone.has(p.path)))
        left = { ...left, paths: left.paths.filter((p) => !gone.has(p.path)) };
      return left;
    };
    const kept = scene.arrangements.filter(stays);
    return [
      ...keptNumbers(scene, numbers),
      ...patchesBetween(
        scene.links,
        scene.links.filter((l) => !gone.has(l.node)),
        ['links'],
      ),
      ...patchesBetween(
        scene.timed,
        scene.timed.filter((t) => !gone.has(t.node)),
        ['timed'],
      ),
      ...patchesBetween(scene.props, scene.props.filter(stays), ['props']),
      ...patchesBetween(scene.paths, scene.paths.filter(stays), ['paths']),
      ...patchesBetween(scene.surfaces, scene.surfaces.filter(stays), ['surfaces']),
      ...patchesBetween(scene.arrangements, kept, ['arrangements']),
      ...patchesBetween(scene.masks, scene.masks.filter(stays), ['masks']),
      ...patchesBetween(scene.bundles, bundlesWithout(scene, gone), ['bundles']),
      ...(props.length + paths.length > 0 ? patchesBetween(kept, kept.map(without), ['arrangements']) : []),
    ];
  },
  name: (before, _, { ids }) => `remove ${called(before, ids)}`,
});

/** Shows or hides arrangements, paths and surfaces. */
export const showNodes = patching<{ ids: string[]; visible: boolean }>({
  patches: (scene, { ids, visible }) =>
    (['arrangements', 'paths', 'surfaces'] as const).flatMap((list) =>
      setting(scene, list, 'visible', (id) => (ids.includes(id) ? visible : undefined)),
    ),
  name: (before, _, { ids, visible }) => `${visible ? 'show' : 'hide'} ${called(before, ids)}`,
});

/** Shows just some of the arrangements, paths or surfaces, each sort by itself; all of everything where none is named. */
export const showOnly = patching<{ ids: string[] }>({
  patches: (scene, { ids }) =>
    (['arrangements', 'paths', 'surfaces'] as const).flatMap((list) => {
      if (ids.length > 0 && !scene[list].some((n) => ids.includes(n.id))) return [];
      return setting(scene, list, 'visible', (id) => ids.length === 0 || ids.includes(id));
    }),
  name: (before, _, { ids }) => (ids.length > 0 ? `show only ${called(before, ids)}` : 'show everything'),
});

/** How arrangements are drawn: as they are, or as boxes or points, which is quicker. */
export type ShownAs = 'full' | NonNullable<Arrangement['shownAs']>;

export const showAs = patching<{ ids: string[]; as: ShownAs }>({
  patches: (scene, { ids, as }) =>
    scene.arrangements.flatMap((a, i): Patch[] => {
      if (!ids.includes(a.id) || (a.shownAs ?? 'full') === as) return [];
      const path = ['arrangements', i, 'shownAs'];
      if (as === 'full') return [{ op: 'remove', path }];
      return [{ op: a.shownAs ? 'replace' : 'add', path, value: as }];
    }),
  name: (before, _, { ids, as }) => `show ${called(before, ids)} ${as === 'full' ? 'in full' : `as ${as}`}`,
});

/** Gives arrangements one dye. */
export const setThreads = patching<{ ids: string[]; thread: Thread }>({
  patches: (scene, { ids, thread }) =>
    setting(scene, 'arrangements', 'thread', (id) => (ids.includes(id) ? thread : undefined)),
  name: (before, _, { ids, thread }) => `${called(before, ids)}: thread ${thread}`,
});
