import type { Scene } from '../scene/schema';
import { isLaid } from '../curve/schema';
import type { Plan, PlanNode } from './plan';
import { movesByItself } from './plan';

/** What a node stands on, with all that this stands on: a scene of its own, to be worked out at other times. */

/** Whether any of some nodes moves, by itself or with what it stands on. */
export function moveAtAll(ids: readonly string[], plan: Plan): boolean {
  return [...under(ids, plan)].some((n) => movesByItself(n) || plan.timed.has(n.id));
}

/** The nodes of some ids, and all that they wait for. */
function under(ids: readonly string[], plan: Plan): Set<PlanNode> {
  const out = new Set<PlanNode>();
  const add = (id: string) => {
    const node = plan.order[plan.place.get(id) ?? -1];
    if (!node || out.has(node)) return;
    out.add(node);
    node.dependsOn.forEach(add);
    if (node.kind === 'path' && isLaid(node.node.source)) add(node.node.source.sheet);
  };
  ids.forEach(add);
  return out;
}

/** The scene with nothing but the nodes of some ids and what they wait for. */
export function sceneUnder(ids: readonly string[], scene: Scene, plan: Plan): Scene {
  const here = new Set([...under(ids, plan)].map((n) => n.id));
  const only = <T extends { id: string }>(list: readonly T[]): T[] => list.filter((n) => here.has(n.id));
  const arrangements = only(scene.arrangements);
  return {
    ...scene,
    surfaces: only(scene.surfaces),
    paths: only(scene.paths),
    arrangements,
    masks: only(scene.masks),
    props: arrangements.length > 0 ? scene.props : [],
    timed: scene.timed.filter((t) => here.has(t.node)),
  };
}
