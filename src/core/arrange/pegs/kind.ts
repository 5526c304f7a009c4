import { defineKind } from '../kind';
import { allPegs, changedIn, keepPegs } from './blocks';
import { changedPegs } from './changed';
import { evaluatePegs } from './evaluate';
import { neededBy } from '../steps/keepOuts';
import { pegNumber, pegsSchema, type Peg, type Pegs } from './schema';

/** The surfaces that pegs are pinned to, and those that free ones stand on. */
function surfacesOf(pegs: Pegs): string[] | 'all' {
  const { mode, surfaces } = pegs.ground;
  const free = mode !== 'none' && allPegs(pegs.pegs).some((p) => !p.pin);
  if (free && surfaces.length === 0) return 'all';
  const pinned = distinct(pegs, ({ pin }) => pin?.surface);
  return [...new Set([...pinned, ...(free ? surfaces : [])])];
}

/** What pegs name, each once. Neighbours mostly name the same: of a hundred thousand few are looked up. */
function distinct({ pegs }: Pegs, of: (peg: Peg) => string | undefined): string[] {
  const found = new Set<string>();
  let last: string | undefined;
  for (const peg of allPegs(pegs)) {
    const id = of(peg);
    if (id !== undefined && id !== last) found.add((last = id));
  }
  return [...found];
}

/** Whether pegs are on the same surfaces and of the same props as they were, one by one. */
const needsTheSame = ({ pegs, ground, gaps }: Pegs, was: Pegs): boolean =>
  ground === was.ground &&
  gaps === was.gaps &&
  (changedIn(pegs, was.pegs)?.every(
    ({ now, was: old }) => now.prop === old.prop && now.pin?.surface === old.pin?.surface,
  ) ??
    false);

/** The kind "pegs" as the registry lists it. */
export const pegsKind = defineKind({
  schema: pegsSchema,
  noun: 'peg',
  needs: (pegs, before) =>
    before && needsTheSame(pegs, before.node)
      ? before.needs
      : {
          ...neededBy(pegs.gaps.keepOuts),
          props: distinct(pegs, (p) => p.prop),
          surfaces: surfacesOf(pegs),
        },
  moves: () => false,
  evaluate: (pegs, context, before) =>
    (before && changedPegs(pegs, context, before)) ?? evaluatePegs(pegs, context),
  withoutProp: ({ pegs }, prop) => ({ pegs: keepPegs(pegs, (p) => p.prop !== prop) }),
  // A peg that is taken out leaves no gap: there is nothing to bring back.
  removeSlots({ pegs }, slots, removed) {
    const gone = new Set(removed ? slots : []);
    return { pegs: keepPegs(pegs, (p) => !gone.has(pegNumber(p.id))) };
  },
  // Pinned ones stay on their places.
  putAside({ pegs }, by) {
    for (const peg of pegs.flat()) if (!peg.pin) peg.position[0] += by;
  },
  renew({ pegs, gaps }, take) {
    for (const peg of pegs.flat()) peg.id = take('peg');
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
});
