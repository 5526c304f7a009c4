import type { ArrangementKind } from '../registry';
import { evaluatePegs } from './evaluate';
import type { Pegs } from './schema';

/** The surfaces that pegs are pinned to, and those that free ones stand on. */
function surfacesOf(pegs: Pegs): string[] | 'all' {
  const { mode, surfaces } = pegs.ground;
  const free = mode !== 'none' && pegs.pegs.some((p) => !p.pin);
  if (free && surfaces.length === 0) return 'all';
  const pinned = pegs.pegs.flatMap((p) => (p.pin ? [p.pin.surface] : []));
  return [...new Set([...pinned, ...(free ? surfaces : [])])];
}

/** The kind "pegs" as the registry lists it. */
export const pegsKind: ArrangementKind<Pegs> = {
  dependsOn: (pegs) => ({
    paths: [],
    props: [...new Set(pegs.pegs.map((p) => p.prop))],
    arrangements: [],
    surfaces: surfacesOf(pegs),
  }),
  moves: () => false,
  evaluate: evaluatePegs,
};
