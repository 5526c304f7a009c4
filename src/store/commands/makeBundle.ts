import { current } from 'immer';
import { inBlocks } from '@/core/arrange/pegs/blocks';
import type { Peg } from '@/core/arrange/pegs/schema';
import { kindOf, needsOf, type Arrangement } from '@/core/arrange/registry';
import { slotName } from '@/core/arrange/slotId';
import type { Path } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Prop } from '@/core/mesh/propSchema';
import { surfaceAsProp } from '@/core/mesh/surfaceAsProp';
import { bundleSchema } from '@/core/scene/bundleSchema';
import { newProp, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement, findSurface, freeName } from './find';

/** A bundle made of what is in the scene: arrangements, single placed props, and the racks that they fill. */

type Node = Arrangement | Path;

/** Nodes that go into a bundle with some arrangements: the paths that nothing else stands on. */
export function goingAlong(scene: Scene, ids: readonly string[]): Path[] {
  const within = new Set(ids);
  const needed = (a: Arrangement) => needsOf(a).paths;
  const own = new Set(scene.arrangements.filter((a) => within.has(a.id)).flatMap(needed));
  const outside = new Set(scene.arrangements.filter((a) => !within.has(a.id)).flatMap(needed));
  const named = JSON.stringify([scene.surfaces, scene.masks]);
  const bases = (p: Path) => JSON.stringify(p.source);
  return scene.paths.filter(
    (p) =>
      own.has(p.id) &&
      !outside.has(p.id) &&
      !named.includes(`"${p.id}"`) &&
      !scene.paths.some((q) => q !== p && !own.has(q.id) && bases(q).includes(`"${p.id}"`)),
  );
}

/** Pegs of some props, as an arrangement of the scene. @returns its id */
const newPegs = (scene: Scene, name: string, pegs: object[]): string =>
  addArrangement(scene, 'pegs', name, () => ({ pegs: inBlocks(pegs as never) }));

/**
 * Makes a placed prop of a surface, where it stands; a surface that nothing else is made from goes.
 * @param members those of them that fill it fill the prop from then on @returns the id of its peg's arrangement
 */
function placedInstead(scene: Scene, id: string, members: readonly string[]): string | null {
  const surface = findSurface(scene, id);
  const as = surfaceAsProp(surface);
  if (!as) return null;
  const prop: Prop = {
    ...newProp(takeId(scene, 'prop'), freeName(scene.props, surface.name), as.mesh),
    ...as.lies,
  };
  scene.props.push(prop);
  const peg = takeId(scene, 'peg');
  const pegs = newPegs(scene, prop.name, [{ id: peg, prop: prop.id, ...as.place }]);
  const placed = { arrangement: pegs, slot: peg.replace(/^\D+/, '') };
  for (const member of members) {
    const a = findArrangement(scene, member);
    Object.assign(a, kindOf(a).ontoPlaced?.(a, id, placed));
  }
  const named = JSON.stringify([
    scene.arrangements,
    scene.paths,
    scene.masks,
    scene.links,
    scene.surfaces.filter((s) => s.id !== id),
  ]);
  if (named.includes(`"${id}"`)) surface.visible = false;
  else scene.surfaces = scene.surfaces.filter((s) => s.id !== id);
  return pegs;
}

/** The surfaces that some arrangements fill. */
function filledBy(scene: Scene, members: readonly string[]): string[] {
  const nowhere = { arrangement: '', slot: '' };
  const fills = (a: Arrangement, id: string) => Boolean(kindOf(a).ontoPlaced?.(a, id, nowhere));
  return scene.surfaces
    .map(({ id }) => id)
    .filter((id) => members.some((m) => fills(findArrangement(scene, m), id)));
}

/** Some of what an arrangement has placed, as it stands. */
export interface Loose {
  arrangement: string;
  slots: number[];
  pegs: Omit<Peg, 'id'>[];
}

/** Takes placed props out of their arrangement, as pegs of their own. @returns the id of those */
function splitOff(scene: Scene, { arrangement, slots, pegs }: Loose): string {
  const a = findArrangement(scene, arrangement);
  const { removeSlots, noun } = kindOf(a);
  if (!removeSlots)
    throw new Error(`No ${noun} of “${a.name}” can be taken out by itself: bundle it as a whole.`);
  // Kinds keep what they know of values by their identity: of a draft that would outlive it.
  Object.assign(a, removeSlots(current(a), slots, true));
  const name = slots.length === 1 ? `${a.name} ${slotName(slots[0])}` : `Some of ${a.name}`;
  return newPegs(
    scene,
    name,
    pegs.map((peg) => ({ id: takeId(scene, 'peg'), ...peg })),
  );
}

/**
 * Makes one prop of arrangements, with the paths that only they stand on and the racks that they fill; where they stood
 * it stands as a peg.
 * @param surfaces that go in as props @param loose single placed props, which leave their arrangement for it
 * @param origin where its foot is, in the scene @returns the ids of the prop and of the pegs, a space between
 */
export const makeBundle = command<{
  members: string[];
  surfaces?: string[];
  loose?: Loose;
  name: string;
  origin: Vec3;
  snapPoints?: Prop['snapPoints'];
}>({
  apply(scene, { members, surfaces = [], loose, name, origin, snapPoints = [] }) {
    const racks = [...new Set([...surfaces, ...filledBy(scene, members)])];
    const own = [
      ...members,
      ...racks.flatMap((id) => placedInstead(scene, id, members) ?? []),
      ...(loose ? [splitOff(scene, loose)] : []),
    ];
    const nodes: Node[] = [...own.map((id) => findArrangement(scene, id)), ...goingAlong(scene, own)];
    const title = freeName(scene.props, name);
    const bundle = bundleSchema.parse({
      id: takeId(scene, 'bundle'),
      name: title,
      members: nodes.map(({ id, visible }) => ({ id, shown: visible })),
      origin,
    });
    for (const node of nodes) node.visible = false;
    scene.bundles.push(bundle);
    const prop: Prop = {
      ...newProp(takeId(scene, 'prop'), title, { source: 'bundle', bundle: bundle.id }),
      foot: { at: 'origin' },
      snapPoints,
    };
    scene.props.push(prop);
    const pegs = newPegs(scene, title, [
      { id: takeId(scene, 'peg'), prop: prop.id, position: [...origin] as Vec3 },
    ]);
    return `${prop.id} ${pegs}`;
  },
  name: (_, after) => `bundle “${after.bundles.at(-1)!.name}”`,
});
