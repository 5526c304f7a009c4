import { STATE } from '@/core/arrange/result';
import { quatRotate, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { copyOutOfBundle, dissolveBundle, makeBundle, openBundle } from '@/store/commands/bundles';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, selectNode } from '@/store/selection';
import { nameOfProp } from './names';
import { lookWhenThere } from '../shell/lookWhenThere';
import { say } from '../uiState';

/** Bundles of what is selected, opened, closed and taken apart. */

/** Ids of the nodes that are in bundles which are closed: no list shows them. */
export const bundledAway = ({ bundles }: Pick<Scene, 'bundles'>): ReadonlySet<string> =>
  new Set(bundles.flatMap((b) => (b.open ? [] : b.members.map((m) => m.id))));

/** The box about all that arrangements have placed now; null where that is nothing. */
function boxOf(ids: readonly string[]): { min: Vec3; max: Vec3 } | null {
  const { arrangements, propBounds } = engine().state.result;
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const id of ids) {
    const p = arrangements.get(id)?.placements;
    for (let i = 0; i < (p?.count ?? 0); i++) {
      const box =
        p!.prop[i] < 0 || p!.state[i] !== STATE.placed ? undefined : propBounds[p!.props[p!.prop[i]]];
      if (!box) continue;
      const q = [...p!.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
      for (let c = 0; c < 8; c++) {
        const own = [0, 1, 2].map(
          (a) => ((c >> a) & 1 ? box.max[a] : box.min[a]) * p!.scale[i * 3 + a],
        ) as Vec3;
        quatRotate(q, own).forEach((v, a) => {
          const at = v + p!.position[i * 3 + a];
          min[a] = Math.min(min[a], at);
          max[a] = Math.max(max[a], at);
        });
      }
    }
  }
  return max[0] >= min[0] ? { min, max } : null;
}

/** Arrangements that can be bundled, of what is selected. */
export const bundlable = (): string[] => {
  const away = bundledAway(useDocument.getState().scene);
  return selectedNodes().flatMap((n) => (n.kind === 'arrangement' && !away.has(n.id) ? [n.id] : []));
};

/** Makes one prop of arrangements; it stands where they stood, on the middle of their base. */
export function bundle(ids: readonly string[]): void {
  if (ids.length === 0) return say('Select one arrangement or several in the list, then bundle them.');
  const box = boxOf(ids);
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

/** How often a bundle is placed, by anything. */
function copiesOf(prop: string): number {
  let count = 0;
  for (const { placements: p } of engine().state.result.arrangements.values()) {
    const at = p.props.indexOf(prop);
    for (let i = 0; at >= 0 && i < p.count; i++) if (p.prop[i] === at && p.state[i] === STATE.placed) count++;
  }
  return count;
}

/** What was bundled stands in the scene again; where there are further copies, these and the bundle stay. */
export function takeApart(prop: string): void {
  if (copiesOf(prop) > 1) {
    dispatch(copyOutOfBundle, { prop });
    say(
      `Copies of what is in “${nameOfProp(prop)}” stand where it was made; its other places stay as they are.`,
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
