import type { Vec3 } from '@/core/math/vec3';
import type { Bounds } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { surfaceAsProp } from '@/core/mesh/surfaceAsProp';
import type { Scene } from '@/core/scene/schema';
import { copyOutOfBundle, dissolveBundle, openBundle } from '@/store/commands/bundles';
import { makeBundle } from '@/store/commands/makeBundle';
import { findProp, findSurface } from '@/store/commands/find';
import { setProps } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, selectNode, useSelection, type NodeRef } from '@/store/selection';
import { placesOf } from '@/view/places';
import { placesOf as usesOf } from '../menus/placesOf';
import { placedAsPegs } from '../recipe/freezeIntoPegs';
import { lookWhenThere } from '../shell/lookWhenThere';
import { say } from '../uiState';

/** Bundles of what is selected, opened, closed and taken apart. */

/** Ids of the nodes that are in bundles which are closed: no list shows them. */
export const bundledAway = ({ bundles }: Pick<Scene, 'bundles'>): ReadonlySet<string> =>
  new Set(bundles.flatMap((b) => (b.open ? [] : b.members.map((m) => m.id))));

/** What can be bundled of what is selected: nodes, or else single placed props. */
interface Bundlable {
  members: string[];
  surfaces: string[];
  /** Slots of an arrangement. */
  loose: { arrangement: string; slots: number[] } | null;
}

export function bundlable(): Bundlable {
  const { slots } = useSelection.getState();
  if (slots)
    return { members: [], surfaces: [], loose: { arrangement: slots.arrangement, slots: slots.ids } };
  const away = bundledAway(useDocument.getState().scene);
  const of = (kind: NodeRef['kind']) =>
    selectedNodes().flatMap((n) => (n.kind === kind && !away.has(n.id) ? [n.id] : []));
  return { members: of('arrangement'), surfaces: of('surface'), loose: null };
}

export const canBundle = ({ members, surfaces, loose }: Bundlable): boolean =>
  members.length + surfaces.length > 0 || loose !== null;

/** So many snap points of what goes in are offered by the bundle from the beginning; more are taken in its panel. */
const FEW = 24;

/** Makes one prop of what is given; it stands where that stood, on the middle of its base. */
export async function bundle({ members, surfaces, loose }: Bundlable): Promise<void> {
  const { scene } = useDocument.getState();
  const [first] = [...members, ...surfaces, ...(loose ? [loose.arrangement] : [])];
  if (!first) return say('Select what should become one prop: arrangements, surfaces, or placed props.');
  const made = surfaces.filter((id) => !surfaceAsProp(findSurface(scene, id)));
  if (made.length > 0)
    return say(
      `“${findSurface(scene, made[0]).name}” is made or deformed here, so that no prop can be made of it: leave it out, or bring its mesh in as a prop.`,
    );
  const of = scene.arrangements.find((a) => a.id === loose?.arrangement);
  // Of the chosen slots those in which something stands.
  const standing = of ? placedAsPegs(of).filter(({ slot }) => loose!.slots.includes(slot)) : [];
  const slots = loose ? standing.map(({ slot }) => slot) : undefined;
  const ids = loose ? [loose.arrangement] : members;
  const boxes = await Promise.all([engine().boxOf(ids, slots), ...surfaces.map(surfaceBox)]);
  const box = boxes.reduce((all, one) => (all && one ? around(all, one) : (all ?? one)), null);
  if (!box) return say('Nothing is placed by what is selected, so there is nothing to bundle.');
  const origin = [(box.min[0] + box.max[0]) / 2, box.min[1], (box.min[2] + box.max[2]) / 2].map((v) =>
    Number(v.toFixed(6)),
  ) as Vec3;
  const points = await engine().snapPointsOf(ids, slots);
  const name = nameOf(scene, first);
  const count = members.length + surfaces.length;
  const done = dispatch(makeBundle, {
    members,
    surfaces,
    ...(loose && {
      loose: { ...loose, slots: slots!, pegs: standing.map(({ peg }) => peg) },
    }),
    origin,
    snapPoints: points.length > FEW ? [] : points.map((p) => ({ ...p, position: less(p.position, origin) })),
    name: loose || count === 1 ? `${name} bundle` : `${name} and ${count - 1} more`,
  });
  const [, own] = done?.split(' ') ?? [];
  if (own) selectArrangement(own);
  if (points.length > FEW)
    say(`What is in it has ${points.length} snap points: its panel offers to take them.`);
}

const less = (a: readonly number[], b: Vec3) => a.map((v, k) => v - b[k]) as Vec3;
const around = (a: Bounds, b: Bounds): Bounds => ({
  min: a.min.map((v, k) => Math.min(v, b.min[k])) as Vec3,
  max: a.max.map((v, k) => Math.max(v, b.max[k])) as Vec3,
});

const nameOf = (scene: Scene, id: string): string =>
  [...scene.arrangements, ...scene.surfaces].find((n) => n.id === id)?.name ?? 'Bundle';

/** The box about a surface as it stands; null while it is not known. */
function surfaceBox(id: string): Bounds | null {
  const places = placesOf({ kind: 'surface', id });
  if (places.length === 0) return null;
  const of = (pick: (...v: number[]) => number) =>
    [0, 1, 2].map((a) => places.reduce((v, p) => pick(v, p[a]), places[0][a])) as Vec3;
  return { min: of(Math.min), max: of(Math.max) };
}

/** A bundle offers the snap points of what is in it, beside those that it has. */
export async function takeSnapPoints(prop: Prop): Promise<void> {
  const points = await engine().snapPointsIn(prop.id);
  const have = new Set(prop.snapPoints.map((p) => p.name));
  const more = points.filter((p) => !have.has(p.name));
  if (more.length === 0) return say('What is in it has no snap points that the bundle has not.');
  dispatch(setProps, { changes: [{ id: prop.id, values: { snapPoints: [...prop.snapPoints, ...more] } }] });
}

/** What was bundled stands in the scene again; where there are further copies, these and the bundle stay. */
export function takeApart(prop: string): void {
  if (usesOf(prop) > 1) {
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
