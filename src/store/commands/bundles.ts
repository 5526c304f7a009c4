import { needsOf, withoutProp, type Arrangement } from '@/core/arrange/registry';
import type { Path } from '@/core/curve/schema';
import { clip, pasting } from '@/core/scene/clipping';
import type { Bundle } from '@/core/scene/bundleSchema';
import type { Scene } from '@/core/scene/schema';
import { command, patching } from '../command';
import { findArrangement, findProp } from './find';
import { goingAlong } from './makeBundle';

/** Commands of bundles: several arrangements that place as one prop. */

/** The bundle that a prop is. */
function findBundle(scene: Scene, prop: string): Bundle {
  const { mesh } = findProp(scene, prop);
  const found = mesh.source === 'bundle' ? scene.bundles.find((b) => b.id === mesh.bundle) : undefined;
  if (!found) throw new Error(`"${prop}" is no bundle.`);
  return found;
}

type Node = Arrangement | Path;

/** The nodes of a bundle that are in the scene. */
const membersOf = (scene: Scene, bundle: Bundle): { node: Node; shown: boolean }[] =>
  bundle.members.flatMap(({ id, shown }) => {
    const node = scene.arrangements.find((a) => a.id === id) ?? scene.paths.find((p) => p.id === id);
    return node ? [{ node, shown }] : [];
  });

/** Opens a bundle, so that what it holds is edited where it was made, or closes it. All of its copies follow. */
export const openBundle = command<{ prop: string; open: boolean }>({
  apply(scene, { prop, open }) {
    const bundle = findBundle(scene, prop);
    if (bundle.open === open) return;
    // One at a time.
    for (const other of scene.bundles) if (other.open) setOpen(scene, other, false);
    if (open) setOpen(scene, bundle, true);
  },
  name: (before, _, { prop, open }) => `${open ? 'open' : 'close'} “${findProp(before, prop).name}”`,
});

function setOpen(scene: Scene, bundle: Bundle, open: boolean): void {
  for (const { node } of membersOf(scene, bundle)) {
    const member = bundle.members.find((m) => m.id === node.id)!;
    if (!open) member.shown = node.visible;
    node.visible = open && member.shown;
  }
  bundle.open = open;
}

/** Whether all copies are alike, or each draws its random values anew. */
export const setCopiesAlike = command<{ prop: string; alike: boolean }>({
  apply: (scene, { prop, alike }) => void (findBundle(scene, prop).alike = alike),
  name: (before, _, { prop, alike }) =>
    `copies of “${findProp(before, prop).name}” ${alike ? 'alike' : 'each by itself'}`,
});

/** Puts arrangements of the scene into a bundle that is open, or takes them out of it. */
export const putIntoBundle = command<{ prop: string; ids: string[]; within: boolean }>({
  apply(scene, { prop, ids, within }) {
    const bundle = findBundle(scene, prop);
    bundle.members = bundle.members.filter((m) => !ids.includes(m.id));
    if (!within) return;
    for (const node of [...ids.map((id) => findArrangement(scene, id)), ...goingAlong(scene, ids)]) {
      bundle.members.push({ id: node.id, shown: node.visible });
      if (!bundle.open) node.visible = false;
    }
  },
  name: (before, _, { prop, ids, within }) =>
    `${ids.length === 1 ? `“${findArrangement(before, ids[0]).name}”` : `${ids.length} things`} ${within ? 'into' : 'out of'} “${findProp(before, prop).name}”`,
});

/**
 * Takes a bundle apart: what it holds stands in the scene again, where it was made, and the bundle is no more. Whatever
 * placed it places nothing there any more.
 */
export const dissolveBundle = command<{ prop: string }>({
  apply(scene, { prop }) {
    const bundle = findBundle(scene, prop);
    for (const { node, shown } of membersOf(scene, bundle)) node.visible = bundle.open ? node.visible : shown;
    const placing = scene.arrangements.filter((a) => needsOf(a).props.includes(prop));
    // Pegs of nothing but copies would have nothing left.
    const only = placing
      .filter((a) => 'pegs' in a && needsOf(a).props.every((p) => p === prop))
      .map((a) => a.id);
    for (const a of placing) Object.assign(a, withoutProp(a, prop));
    scene.arrangements = scene.arrangements.filter((a) => !only.includes(a.id));
    scene.props = scene.props.filter((p) => p.id !== prop);
    scene.bundles = scene.bundles.filter((b) => b.id !== bundle.id);
  },
  name: (before, _, { prop }) => `take “${findProp(before, prop).name}” apart`,
});

/** Copies of what a bundle holds stand in the scene, where it was made; the bundle and its copies stay. */
export const copyOutOfBundle = patching<{ prop: string }>({
  patches(scene, { prop }) {
    const bundle = findBundle(scene, prop);
    const part = clip(
      scene,
      bundle.members.map((m) => m.id),
      '',
    );
    const shown = new Map(bundle.members.map((m) => [m.id, m.shown]));
    const seen = <N extends { id: string; visible: boolean }>(list: readonly N[]): N[] =>
      list.map((n) => (shown.has(n.id) ? { ...n, visible: shown.get(n.id)! } : n));
    const clipping = {
      ...part,
      scene: { ...part.scene, arrangements: seen(part.scene.arrangements), paths: seen(part.scene.paths) },
    };
    const { made, patches } = pasting(scene, clipping, '', undefined);
    return { made: made.join(' '), patches };
  },
  name: (before, _, { prop }) => `copy out what is in “${findProp(before, prop).name}”`,
});
