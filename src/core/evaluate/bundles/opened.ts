import { needsOf, type Arrangement } from '../../arrange/registry';
import type { Scene } from '../../scene/schema';

/**
 * Tells two arrangements of which one is in the bundle that is open, and the other has placed copies of that: they stand
 * in each other as long as it is open, and nobody minds. Null where none is open.
 */
export function standsInOpened({
  bundles,
  props,
  arrangements,
}: Scene): ((one: Arrangement, other: Arrangement) => boolean) | null {
  const open = bundles.find((b) => b.open);
  if (!open) return null;
  const members = new Set(open.members.map((m) => m.id));
  const needed = new Map(arrangements.map((a) => [a.id, needsOf(a).props]));
  const holding = new Set([open.id]);
  const copies = new Set<string>();
  // Those too that are in other bundles: outwards, until there is no further one.
  for (let before = -1; before < holding.size + copies.size;) {
    before = holding.size + copies.size;
    for (const { id, mesh } of props)
      if (mesh.source === 'bundle' && holding.has(mesh.bundle)) copies.add(id);
    for (const b of bundles)
      if (b.members.some((m) => needed.get(m.id)?.some((p) => copies.has(p)))) holding.add(b.id);
  }
  const places = ({ id }: Arrangement) => !members.has(id) && needed.get(id)!.some((p) => copies.has(p));
  return (one, other) => (members.has(one.id) && places(other)) || (members.has(other.id) && places(one));
}
