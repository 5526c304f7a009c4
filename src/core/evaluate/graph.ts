/** The order in which nodes are worked out: what others stand on comes first. */
export interface GraphOrder {
  order: string[];
  /** Rings of nodes that wait for each other; none of their nodes is in `order`. */
  cycles: string[][];
}

/**
 * Depth-first topological order. Nodes keep the order in which they were given as far as their dependencies
 * allow. Dependencies on unknown ids are left out: the node itself reports them.
 */
export function orderNodes(nodes: { id: string; dependsOn: string[] }[]): GraphOrder {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const state = new Map<string, 'open' | 'done' | 'cyclic'>();
  const order: string[] = [];
  const cycles: string[][] = [];
  const trail: string[] = [];
  const visit = (id: string): boolean => {
    const seen = state.get(id);
    if (seen === 'done') return true;
    if (seen === 'cyclic') return false;
    if (seen === 'open') {
      cycles.push(trail.slice(trail.indexOf(id)));
      return false;
    }
    state.set(id, 'open');
    trail.push(id);
    let sound = true;
    for (const dep of byId.get(id)!.dependsOn) if (byId.has(dep) && !visit(dep)) sound = false;
    trail.pop();
    state.set(id, sound ? 'done' : 'cyclic');
    if (sound) order.push(id);
    return sound;
  };
  for (const { id } of nodes) visit(id);
  return { order, cycles };
}
