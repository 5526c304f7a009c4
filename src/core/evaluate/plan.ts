import { needsOf } from '../arrange/registry';
import type { Arrangement, Path, Scene, Surface } from '../scene/schema';
import { pathNeeds } from './compileSource';
import { orderNodes } from './graph';
import { surfaceColliders, surfaceNeeds } from './surfaces';

/** A node of a scene with the nodes that it waits for. */
export type PlanNode = { id: string; dependsOn: string[] } & (
  | { kind: 'surface'; node: Surface }
  | { kind: 'path'; node: Path }
  | { kind: 'arrangement'; node: Arrangement }
);

/** In which order the nodes of a scene are worked out. */
export interface Plan {
  surfaces: readonly Surface[];
  paths: readonly Path[];
  arrangements: readonly Arrangement[];
  nodes: PlanNode[];
  /** Nodes that wait for a ring, or for each other, come last of all that is sound. */
  order: PlanNode[];
  /** Names of the nodes that wait for each other, by the id of each. */
  rings: Map<string, string[]>;
  /** Surfaces that anything lands on unless it names some: those that are shown. */
  grounds: string[];
}

/**
 * The plan of a scene. Where every node still waits for the same ones as in the plan before, its order stays: a change
 * of one node does not go through the whole graph again.
 */
export function planOf(scene: Scene, before: Plan | null): Plan {
  return (before && changed(scene, before)) ?? wholePlan(scene);
}

/** The plan before with the nodes that are others now; null where their order may be another one too. */
function changed(scene: Scene, before: Plan): Plan | null {
  const { surfaces, paths, arrangements } = scene;
  if (before.surfaces !== surfaces || before.rings.size > 0) return null;
  if (before.paths === paths && before.arrangements === arrangements) return before;
  if (before.paths.length !== paths.length || before.arrangements.length !== arrangements.length) return null;
  const now = new Map<PlanNode, PlanNode>();
  const same = (node: Path | Arrangement, i: number, made: () => PlanNode): boolean => {
    const old = before.nodes[i];
    const waits = old.kind === 'path' && old.node.source.kind === 'sheet';
    if (old.node === node && !waits) return true;
    const fresh = made();
    now.set(old, fresh);
    return fresh.id === old.id && sameList(fresh.dependsOn, old.dependsOn);
  };
  const first = surfaces.length;
  const then = first + paths.length;
  for (const [i, p] of paths.entries()) if (!same(p, first + i, () => pathNode(p, scene))) return null;
  for (const [i, a] of arrangements.entries())
    if (!same(a, then + i, () => arrangementNode(a, before.grounds))) return null;
  const fresh = (n: PlanNode) => now.get(n) ?? n;
  return { ...before, paths, arrangements, nodes: before.nodes.map(fresh), order: before.order.map(fresh) };
}

const sameList = (a: string[], b: string[]) => a.length === b.length && a.every((v, i) => v === b[i]);

function pathNode(node: Path, scene: Scene): PlanNode {
  const needs = pathNeeds(node, scene);
  return { id: node.id, dependsOn: [...needs.surfaces, ...needs.paths], kind: 'path', node };
}

function arrangementNode(node: Arrangement, shown: string[]): PlanNode {
  const needs = needsOf(node);
  const grounds = needs.surfaces === 'all' ? shown : needs.surfaces;
  return {
    id: node.id,
    dependsOn: [...grounds, ...needs.paths, ...needs.arrangements],
    kind: 'arrangement',
    node,
  };
}

function wholePlan(scene: Scene): Plan {
  const { surfaces, paths, arrangements } = scene;
  const grounds = surfaces.filter((s) => s.visible).map((s) => s.id);
  const nodes = [
    ...surfaces.map((node): PlanNode => ({
      id: node.id,
      dependsOn: [...surfaceNeeds(node), ...surfaceColliders(node)],
      kind: 'surface',
      node,
    })),
    ...paths.map((node) => pathNode(node, scene)),
    ...arrangements.map((node) => arrangementNode(node, grounds)),
  ];
  const { order, cycles } = orderNodes(nodes);
  const names = new Map(nodes.map((n) => [n.id, `“${n.node.name}”`]));
  const rings = new Map(cycles.flatMap((c) => c.map((id) => [id, c.map((n) => names.get(n)!)] as const)));
  const sound = new Set(order);
  const byId = new Map(nodes.map((n) => [n.id, n]));
  // What waits for a ring without being in it goes after all that is sound, and finds its base broken.
  const stuck = nodes.filter((n) => !sound.has(n.id));
  return {
    surfaces,
    paths,
    arrangements,
    nodes,
    order: [
      ...stuck.filter((n) => rings.has(n.id)),
      ...order.map((id) => byId.get(id)!),
      ...stuck.filter((n) => !rings.has(n.id)),
    ],
    rings,
    grounds,
  };
}
