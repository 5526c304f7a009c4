import type { GivenOver, Scatter } from '@/core/arrange/scatter/schema';
import type { Scene } from '@/core/scene/schema';
import { builtEntry } from '@/demo/library';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findPath, findProp, findSurface, findWith } from './find';

/** Commands of scatters. Their blocks of settings have the commands of all arrangements. */

/** How far over a place, metres, ground is looked for below the paths that enclose an area. */
const ABOVE = 100;

const nameOf = (scene: Scene, over: GivenOver): string => {
  if (over.kind === 'volume') return findSurface(scene, over.surface).name;
  const [first = ''] = (over.kind === 'paths' ? over.paths : over.surfaces) ?? [];
  return over.kind === 'paths' ? findPath(scene, first).name : findSurface(scene, first).name;
};

/** What a prop suggests where it is scattered: what grows or lies any way round is turned by chance. */
const suggested = (scene: Scene, prop: string): object => {
  const { mesh } = findProp(scene, prop);
  const anyTurn = mesh.source === 'built' && builtEntry(mesh.name)?.anyTurn;
  return anyTurn ? { [prop]: { turnDeg: [-180, 180] } } : {};
};

/** Scatters props over an area. What closed paths enclose is landed on what is beneath. @returns its id */
export const addScatter = command<{ over: GivenOver; props?: string[]; values?: Partial<Scatter> }>({
  apply(scene, { over, props = [], values = {} }) {
    const [first] = props;
    const where = `${over.kind === 'surfaces' ? 'over' : 'inside'} ${nameOf(scene, over)}`;
    const title = first ? `${findProp(scene, first).name} ${where}` : where[0].toUpperCase() + where.slice(1);
    const ground = over.kind === 'paths' &&
      scene.surfaces.length > 0 && { ground: { mode: 'land', above: ABOVE } };
    return addArrangement(scene, 'scatter', title, () => ({
      over,
      props: props.map((prop) => ({ prop, weight: 1 })),
      variation: { perProp: Object.assign({}, ...props.map((prop) => suggested(scene, prop))) },
      ...ground,
      ...values,
    }));
  },
  name: (_, after) => `scatter “${after.arrangements.at(-1)!.name}”`,
});

/** Hangs more props into a scatter: all share its places by weight. What hangs there already stays as it is. */
export const addScatterProps = command<{ id: string; props: string[] }>({
  apply(scene, { id, props }) {
    const found = findWith(scene, id, 'spread');
    for (const prop of props) {
      if (found.props.some((p) => p.prop === prop)) continue;
      found.props.push({ prop, weight: 1 });
      found.variation.perProp = { ...suggested(scene, prop), ...found.variation.perProp };
    }
  },
  name: (before, _, { id, props }) =>
    `${props.map((prop) => findProp(before, prop).name).join(', ')} into “${findWith(before, id, 'spread').name}”`,
});
