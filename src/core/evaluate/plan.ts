import type { Needs } from '../arrange/kind';
import { movesInTime, needsOf, surfacesOf } from '../arrange/registry';
import type { Arrangement } from '../arrange/registry';
import { hasPoints, isLaid, type Path } from '../curve/schema';
import { readsSurface } from '../mesh/mask/needs';
import type { Prop } from '../mesh/propSchema';
import type { Mask } from '../mesh/mask/schema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { pathNeeds } from './compileSource';
import { hangMoves } from './hung';
import { maskWaitsFor } from './masks';
import { shownGrounds, takenBy } from './gathered/takes';
import { orderNodes } from './graph';
import { allSitting, goesWith, sittingOf, sittingPaths, type Sitting } from './sitting';
import { surfaceColliders, surfaceLines, surfaceMasks, surfaceMoves, surfacePaths } from './surfaces';

/** What props that are bundles stand for. */
interface Bundled {
  bundles: Scene['bundles'];
  props: Scene['props'];
  /** Ids of the arrangements that are in each, by the prop. */
  nodes: Map<string, string[]>;
}

/** The same object where nothing of it is another. */
function bundledOf({ bundles, props, arrangements }: Scene, before: Bundled | null): Bundled {
  if (before?.bundles === bundles && (before.props === props || bundles.length === 0)) return before;
  const here = new Set(arrangements.map((a) => a.id));
  const by = new Map(bundles.map((b) => [b.id, b.members.flatMap((m) => (here.has(m.id) ? [m.id] : []))]));
  const nodes = new Map<string, string[]>();
  for (const { id, mesh } of props) if (mesh.source === 'bundle') nodes.set(id, by.get(mesh.bundle) ?? []);
  return { bundles, props, nodes };
}

/** A node of a scene with the nodes that it waits for. */
export type PlanNode = { id: string; dependsOn: string[] } & (
  | { kind: 'surface'; node: Surface }
  | { kind: 'path'; node: Path }
  | { kind: 'arrangement'; node: Arrangement }
  | { kind: 'mask'; node: Mask }
);

/** In which order the nodes of a scene are worked out, and what follows from what. */
export interface Plan {
  surfaces: readonly Surface[];
  paths: readonly Path[];
  arrangements: readonly Arrangement[];
  masks: readonly Mask[];
  /** Nodes that wait for a ring, or for each other, come last of all that is sound. */
  order: PlanNode[];
  /** Ids of those in `order` that wait for no ring. */
  sound: readonly string[];
  /** Where each node is in `order`. */
  place: Map<string, number>;
  /** For each node of `order`, the places of those that wait for it. */
  followers: number[][];
  /** Names of the nodes that wait for each other, by the id of each. */
  rings: Map<string, string[]>;
  /** Surfaces that anything lands on unless it names some. */
  grounds: string[];
  /** Ids of nodes with numbers that change with time. */
  timed: ReadonlySet<string>;
  /** What lands as one with what. */
  sitting: Sitting;
  /** The nodes that each prop stands for that is a bundle. */
  bundled: Bundled;
  /** Ids of the props that are stamps. */
  stamps: ReadonlySet<string>;
  /** Places of nodes that are others than in the plan that this one came from; null where all may be. */
  fresh: number[] | null;
}

/**
 * The plan of a scene. Where every node still waits for the same ones as in the plan before, its order stays, and it
 * is known which nodes are others: a change of one node does not go through the whole graph again.
 */
export function planOf(scene: Scene, before: Plan | null): Plan {
  return (before && changed(scene, before)) ?? wholePlan(scene);
}

/** The plan before with the nodes that are others now; null where their order may be another one too. */
function changed(scene: Scene, before: Plan): Plan | null {
  const { surfaces, paths, arrangements, masks } = scene;
  if (before.surfaces !== surfaces || before.rings.size > 0) return null;
  const bundled = bundledOf(scene, before.bundled);
  const stamps = stampsAmong(scene.props);
  if (before.paths.length !== paths.length || before.arrangements.length !== arrangements.length) return null;
  // What reads a mask may wait for other surfaces once that reads them.
  const reads = (list: readonly Mask[]) => list.filter(readsSurface).map((m) => m.id);
  if (before.masks.length !== masks.length) return null;
  if (before.masks !== masks && !sameList(reads(before.masks), reads(masks))) return null;
  const order = before.order.slice();
  const fresh: number[] = [];
  const sits = (a: Arrangement, i: number) =>
    a !== before.arrangements[i] && (goesWith(a) ?? goesWith(before.arrangements[i])) !== null;
  const sitting = arrangements.some(sits) ? sittingOf(arrangements) : before.sitting;
  const same = (old: Path | Arrangement | Mask, made: PlanNode): boolean => {
    const at = before.place.get(old.id)!;
    fresh.push(at);
    order[at] = made;
    return made.id === old.id && sameList(made.dependsOn, before.order[at].dependsOn);
  };
  for (let i = 0; i < paths.length; i++) {
    // A path out of a sheet waits for what that lies on, and goes by its settings.
    if (paths[i] === before.paths[i] && !isLaid(paths[i].source)) continue;
    if (!same(before.paths[i], pathNode(paths[i], scene))) return null;
  }
  for (let i = 0; i < masks.length; i++)
    if (masks[i] !== before.masks[i] && !same(before.masks[i], maskNode(masks[i]))) return null;
  const seen = new Set<string>();
  /** What something sits on may land otherwise too. */
  const lands = (a: Arrangement, was: Arrangement): boolean => {
    if (seen.has(a.id)) return true;
    seen.add(a.id);
    if (!same(was, arrangementNode(a, before.grounds, sitting, masks, bundled, stamps, was))) return false;
    for (const id of [goesWith(a), goesWith(was)]) {
      const under = id === null ? undefined : before.order[before.place.get(id) ?? -1];
      if (under?.kind !== 'arrangement') continue;
      const now = arrangements[before.arrangements.indexOf(under.node)];
      if (!lands(now, under.node)) return false;
    }
    return true;
  };
  for (let i = 0; i < arrangements.length; i++)
    if (arrangements[i] !== before.arrangements[i] && !lands(arrangements[i], before.arrangements[i]))
      return null;
  // What places a bundle waits for what is in that now.
  if (bundled !== before.bundled) return null;
  return { ...before, paths, arrangements, masks, order, sitting, stamps, fresh, timed: timedOf(scene) };
}

const sameList = (a: string[], b: string[]) => a.length === b.length && a.every((v, i) => v === b[i]);

function surfaceNode(node: Surface): PlanNode {
  const dependsOn = [
    ...surfacePaths(node),
    ...surfaceLines(node),
    ...surfaceColliders(node),
    ...surfaceMasks(node),
    ...takenBy(node),
  ];
  return { id: node.id, dependsOn, kind: 'surface', node };
}

function pathNode(node: Path, scene: Scene): PlanNode {
  const needs = pathNeeds(node, scene);
  return {
    id: node.id,
    dependsOn: [...needs.surfaces, ...needs.paths, ...needs.arrangements],
    kind: 'path',
    node,
  };
}

const maskNode = (node: Mask): PlanNode => ({
  id: node.id,
  dependsOn: maskWaitsFor(node),
  kind: 'mask',
  node,
});

function arrangementNode(
  node: Arrangement,
  shown: string[],
  sitting: Sitting,
  masks: readonly Mask[],
  bundled: Bundled,
  stamps: ReadonlySet<string>,
  was?: Arrangement,
): PlanNode {
  const needs = needsOf(node, was);
  const above = sittingPaths(allSitting(node, sitting));
  const dependsOn = [
    ...groundsOf(needs, shown, masks, stamps),
    ...needs.paths,
    ...needs.arrangements,
    ...(needs.masks ?? []),
    ...above,
    ...needs.props.flatMap((prop) => bundled.nodes.get(prop) ?? []),
  ];
  return { id: node.id, dependsOn, kind: 'arrangement', node };
}

/**
 * The surfaces that an arrangement waits for: those that it stands on; where it stands on none, and its masks read one or
 * it places stamps, all that are shown. @param stamps ids of props
 */
export function groundsOf(
  needs: Needs,
  shown: readonly string[],
  masks: readonly Mask[],
  stamps: ReadonlySet<string>,
): string[] {
  const own = surfacesOf(needs, shown);
  if (own.length > 0) return own;
  const reads = needs.masks && masks.some((m) => needs.masks!.includes(m.id) && readsSurface(m));
  return reads || needs.props.some((p) => stamps.has(p)) ? [...shown] : own;
}

const stampsOf = new WeakMap<readonly Prop[], ReadonlySet<string>>();

/** Ids of the props of a list that are drawn into surfaces. */
export function stampsAmong(props: readonly Prop[]): ReadonlySet<string> {
  let have = stampsOf.get(props);
  if (!have) {
    have = new Set(props.flatMap((p) => (p.mesh.source === 'stamp' ? [p.id] : [])));
    stampsOf.set(props, have);
  }
  return have;
}

function wholePlan(scene: Scene): Plan {
  const { surfaces, paths, arrangements, masks } = scene;
  const grounds = shownGrounds(surfaces);
  const sitting = sittingOf(arrangements);
  const bundled = bundledOf(scene, null);
  const stamps = stampsAmong(scene.props);
  const nodes = [
    ...surfaces.map(surfaceNode),
    ...paths.map((node) => pathNode(node, scene)),
    ...masks.map(maskNode),
    ...arrangements.map((node) => arrangementNode(node, grounds, sitting, masks, bundled, stamps)),
  ];
  const sorted = orderNodes(nodes);
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const names = (ids: string[]) => ids.map((id) => `“${byId.get(id)!.node.name}”`);
  const rings = new Map(sorted.cycles.flatMap((c) => c.map((id) => [id, names(c)] as const)));
  const sound = new Set(sorted.order);
  // What waits for a ring without being in it goes after all that is sound, and finds its base broken.
  const stuck = nodes.filter((n) => !sound.has(n.id));
  const order = [
    ...stuck.filter((n) => rings.has(n.id)),
    ...sorted.order.map((id) => byId.get(id)!),
    ...stuck.filter((n) => !rings.has(n.id)),
  ];
  const place = new Map(order.map((n, i) => [n.id, i]));
  const followers: number[][] = order.map(() => []);
  order.forEach((n, i) => n.dependsOn.forEach((id) => place.has(id) && followers[place.get(id)!].push(i)));
  return {
    surfaces,
    paths,
    arrangements,
    masks,
    order,
    sound: sorted.order,
    place,
    followers,
    rings,
    grounds,
    timed: timedOf(scene),
    sitting,
    bundled,
    stamps,
    fresh: null,
  };
}

const timedOf = ({ timed }: Scene): ReadonlySet<string> => new Set(timed.map((t) => t.node));

/** Whether a node changes by itself with time. */
export const movesByItself = (n: PlanNode): boolean =>
  n.kind === 'surface'
    ? surfaceMoves(n.node)
    : n.kind === 'path'
      ? hasPoints(n.node) && hangMoves(n.node)
      : n.kind === 'arrangement' && movesInTime(n.node);
