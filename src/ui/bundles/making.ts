import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { copyOutOfBundle, dissolveBundle, makeBundle, openBundle } from '@/store/commands/bundles';
import { findProp } from '@/store/commands/find';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, selectNode } from '@/store/selection';
import { placesOf } from '../menus/placesOf';
import { lookWhenThere } from '../shell/lookWhenThere';
import { say } from '../uiState';

/** Bundles of what is selected, opened, closed and taken apart. */

/** Ids of the nodes that are in bundles which are closed: no list shows them. */
export const bundledAway = ({ bundles }: Pick<Scene, 'bundles'>): ReadonlySet<string> =>
  new Set(bundles.flatMap((b) => (b.open ? [] : b.members.map((m) => m.id))));

/** Arrangements that can be bundled, of what is selected. */
export const bundlable = (): string[] => {
  const away = bundledAway(useDocument.getState().scene);
  return selectedNodes().flatMap((n) => (n.kind === 'arrangement' && !away.has(n.id) ? [n.id] : []));
};

/** Makes one prop of arrangements; it stands where they stood, on the middle of their base. */
export async function bundle(ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return say('Select one arrangement or several in the list, then bundle them.');
  const box = await engine().boxOf(ids);
  if (!box) return say('Nothing is placed by what is selected, so there is nothing to bundle.');
  const origin = [(box.min[0] + box.max[0]) / 2, box.min[1], (box.min[2] + box.max[2]) / 2].map((v) =>
    Number(v.toFixed(6)),
  ) as Vec3;
  const { arrangements } = useDocument.getState().scene;
  const first = arrangements.find((a) => a.id === ids[0])?.name ?? 'Bundle';
  const made = dispatch(makeBundle, {
    members: [...ids],
    origin,
    name: ids.length === 1 ? `${first} bundle` : `${first} and ${ids.length - 1} more`,
  });
  const [, pegs] = made?.split(' ') ?? [];
  if (pegs) selectArrangement(pegs);
}

/** What was bundled stands in the scene again; where there are further copies, these and the bundle stay. */
export function takeApart(prop: string): void {
  if (placesOf(prop) > 1) {
    dispatch(copyOutOfBundle, { prop });
    say(
      `Copies of what is in “${findProp(useDocument.getState().scene, prop).name}” stand where it was made; its other places stay as they are.`,
    );
  } else dispatch(dissolveBundle, { prop });
}

export function openToEdit(prop: string): void {
  dispatch(openBundle, { prop, open: true });
  const { scene } = useDocument.getState();
  const { mesh } = scene.props.find((p) => p.id === prop)!;
  const first =
    mesh.source === 'bundle' ? scene.bundles.find((b) => b.id === mesh.bundle)?.members[0] : undefined;
  if (!first || !scene.arrangements.some((a) => a.id === first.id)) return;
  selectArrangement(first.id);
  lookWhenThere({ kind: 'arrangement', id: first.id });
}

export function closeBundle(): void {
  const { scene } = useDocument.getState();
  const open = scene.bundles.find((b) => b.open);
  const prop = scene.props.find((p) => p.mesh.source === 'bundle' && p.mesh.bundle === open?.id);
  if (!prop) return;
  dispatch(openBundle, { prop: prop.id, open: false });
  selectNode('prop', prop.id);
}
