import { has, kindOf, needsOf, type Arrangement } from '../arrange/registry';
import type { ArrangeContext } from '../arrange/context';
import { STATE, type Placements } from '../arrange/result';
import { parseSlotName } from '../arrange/slotId';

/** Arrangements by the one that they land with as one. */
export type Sitting = ReadonlyMap<string, readonly Arrangement[]>;

/** Whether where it comes to rest depends on its meshes, and so on what sits on it too. */
const landsByMesh = (a: Arrangement): boolean =>
  has(a, 'ground') && a.ground.mode !== 'none' && a.ground.contact !== 'foot';

/** @param by arrangements, by {@link Kind.goesWith} */
export function sittingOf(arrangements: readonly Arrangement[]): Sitting {
  const by = new Map<string, Arrangement[]>();
  for (const a of arrangements) {
    const leader = goesWith(a);
    if (leader !== null) by.set(leader, [...(by.get(leader) ?? []), a]);
  }
  return by;
}

/** The arrangement that one lands with as one; null where it does not. */
export const goesWith = (a: Arrangement): string | null => kindOf(a).goesWith?.(a) ?? null;

/** All that sits on an arrangement as one with it and matters to how it lands, what sits on that too. */
export function allSitting(a: Arrangement, sitting: Sitting): Arrangement[] {
  if (sitting.size === 0 || !landsByMesh(a)) return [];
  const out = new Set<Arrangement>();
  const add = (id: string) => {
    for (const on of sitting.get(id) ?? [])
      if (!out.has(on)) {
        out.add(on);
        add(on.id);
      }
  };
  add(a.id);
  out.delete(a);
  return [...out];
}

/** Paths by which it is decided what sits there at all. */
export const sittingPaths = (all: readonly Arrangement[]): string[] => [
  ...new Set(all.flatMap((a) => needsOf(a).paths)),
];

/**
 * Where what goes with rows as one sits on them. What a hand holds where it is does not go with them; what gives way to
 * other arrangements is taken along, since those may wait for these rows.
 * @param leaders rows of the arrangement `id`, wherever they stand
 */
export function sitOn(
  id: string,
  leaders: Placements,
  sitting: Sitting,
  context: ArrangeContext,
): Placements[] {
  const out: Placements[] = [];
  const put = (under: string, rows: Placements, above: readonly string[]) => {
    for (const a of sitting.get(under) ?? []) {
      if (above.includes(a.id)) continue;
      const here = { ...context, arrangement: (other: string) => (other === under ? rows : undefined) };
      const { placements } = kindOf(a).evaluate(a, here);
      if (has(a, 'hand')) leaveLocked(placements, a.hand);
      out.push(placements);
      put(a.id, placements, [...above, a.id]);
    }
  };
  put(id, leaders, [id]);
  return out;
}

function leaveLocked(placements: Placements, hand: Record<string, { lock?: unknown }>): void {
  const locked = new Set<number>();
  for (const [name, { lock }] of Object.entries(hand)) if (lock) locked.add(parseSlotName(name));
  if (locked.size === 0) return;
  for (let row = 0; row < placements.count; row++)
    if (locked.has(placements.slot[row])) placements.state[row] = STATE.hand;
}
