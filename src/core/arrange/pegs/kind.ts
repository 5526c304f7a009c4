import type { ArrangementKind } from '../registry';
import { changedPegs } from './changed';
import { evaluatePegs } from './evaluate';
import type { Peg, Pegs } from './schema';

/** The surfaces that pegs are pinned to, and those that free ones stand on. */
function surfacesOf(pegs: Pegs): string[] | 'all' {
  const { mode, surfaces } = pegs.ground;
  const free = mode !== 'none' && pegs.pegs.some((p) => !p.pin);
  if (free && surfaces.length === 0) return 'all';
  const pinned = distinct(pegs, ({ pin }) => pin?.surface);
  return [...new Set([...pinned, ...(free ? surfaces : [])])];
}

/** What pegs name, each once. Neighbours mostly name the same: of a hundred thousand few are looked up. */
function distinct({ pegs }: Pegs, of: (peg: Peg) => string | undefined): string[] {
  const found = new Set<string>();
  let last: string | undefined;
  for (const peg of pegs) {
    const id = of(peg);
    if (id !== undefined && id !== last) found.add((last = id));
  }
  return [...found];
}

/** The kind "pegs" as the registry lists it. */
export const pegsKind: ArrangementKind<Pegs> = {
  dependsOn: (pegs) => ({
    paths: [],
    props: distinct(pegs, (p) => p.prop),
    arrangements: [],
    surfaces: surfacesOf(pegs),
  }),
  moves: () => false,
  evaluate: (pegs, context, before) =>
    (before && changedPegs(pegs, context, before)) ?? evaluatePegs(pegs, context),
};
