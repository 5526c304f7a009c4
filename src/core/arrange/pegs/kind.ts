import type { ArrangementKind } from '../registry';
import { evaluatePegs } from './evaluate';
import type { Pegs } from './schema';

/** The kind "pegs" as the registry lists it. */
export const pegsKind: ArrangementKind<Pegs> = {
  dependsOn: (pegs) => ({
    paths: [],
    props: [...new Set(pegs.pegs.map((p) => p.prop))],
    arrangements: [],
    surfaces: [],
  }),
  moves: () => false,
  evaluate: evaluatePegs,
};
