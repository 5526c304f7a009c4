import { defineKind } from '../kind';
import { allPegs, changedIn, keepPegs } from './blocks';
import { changedPegs } from './changed';
import { evaluatePegs } from './evaluate';
import { neededBy } from '../steps/keepOuts';
import { parseSlotName, slotName } from '../slotId';
import { variationSchema } from '../steps/variationSchema';
import { pegNumber, pegsSchema, type Peg, type Pegs } from './schema';
import { sittingIn } from './sits';

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
    ({ now, was: old }) =>
      now.prop === old.prop && now.pin?.surface === old.pin?.surface && carrierOf(now) === carrierOf(old),
  ) ??
    false);

/** The arrangement or path that a peg sits on. */
const carrierOf = ({ sits }: Peg): string | undefined =>
  sits && (sits.on.to === 'slot' ? sits.on.arrangement : sits.on.path);

/** What pegs sit on, of the sort that is asked for. */
const carriers = ({ id, pegs }: Pegs, to: 'slot' | 'point'): string[] =>
  [
    ...new Set(
      pegs.flatMap((block) =>
        sittingIn(block).flatMap((p) => (p.sits!.on.to === to ? (carrierOf(p) ?? []) : [])),
      ),
    ),
  ].filter((carrier) => carrier !== id);

const withCarriers = ({ paths, arrangements }: ReturnType<typeof neededBy>, pegs: Pegs) => ({
  paths: [...new Set([...paths, ...carriers(pegs, 'point')])],
  arrangements: [...new Set([...arrangements, ...carriers(pegs, 'slot')])],
});

/** Whether the peg in a slot sits on what is in a slot of another arrangement, or of its own. */
function sitsOnThat({ pegs }: Pegs): (slot: number, other: string, of: number) => boolean {
  const on = new Map(
    pegs.flatMap((block) =>
      sittingIn(block).map((p) => {
        const { on } = p.sits!;
        return [pegNumber(p.id), on.to === 'slot' ? `${on.arrangement} ${parseSlotName(on.slot)}` : ''];
      }),
    ),
  );
  return (slot, other, of) => on.get(slot) === `${other} ${of}`;
}

/** The kind "pegs" as the registry lists it. */
export const pegsKind = defineKind({
  schema: pegsSchema,
  noun: 'peg',
  places: ['pegs'],
  needs: (pegs, before) =>
    before && needsTheSame(pegs, before.node)
      ? before.needs
      : {
          ...withCarriers(neededBy(pegs.gaps.keepOuts), pegs),
          props: distinct(pegs, (p) => p.prop),
          surfaces: surfacesOf(pegs),
        },
  touches: (pegs) => ({ on: carriers(pegs, 'slot'), may: sitsOnThat(pegs), neighbours: false }),
  moves: () => false,
  evaluate: (pegs, context, before) =>
    (before && changedPegs(pegs, context, before)) ?? evaluatePegs(pegs, context),
  withoutProp: ({ pegs }, prop) => ({ pegs: keepPegs(pegs, (p) => p.prop !== prop) }),
  // A peg that is taken out leaves no gap: there is nothing to bring back.
  removeSlots({ pegs }, slots, removed) {
    const gone = new Set(removed ? slots : []);
    return { pegs: keepPegs(pegs, (p) => !gone.has(pegNumber(p.id))) };
  },
  // They stand free there, and neither ground nor chance moves them on.
  putAt: ({ pegs, ground }, places) => ({
    pegs: pegs.map((block) =>
      block.map((peg) => {
        const to = places.get(slotName(pegNumber(peg.id)));
        if (!to) return peg;
        const { sits: _, ...free } = peg;
        return { ...free, ...to, pin: null };
      }),
    ),
    ground: { ...ground, mode: 'none' as const },
    variation: variationSchema.parse(undefined),
  }),
  // Pinned and connected ones stay on their places.
  putAside({ pegs }, by) {
    for (const peg of pegs.flat()) if (!peg.pin && !peg.sits) peg.position[0] += by;
  },
  snapNames: ({ pegs }) =>
    pegs.flatMap((block, b) =>
      sittingIn(block).flatMap((peg) => {
        const { on } = peg.sits!;
        const path = ['pegs', b, block.indexOf(peg), 'sits', 'on', 'snap'];
        return on.to === 'slot' ? [{ on: on.arrangement, snap: on.snap, path }] : [];
      }),
    ),
  renew({ pegs, gaps }, take) {
    for (const peg of pegs.flat()) peg.id = take('peg');
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
  // A peg's slot is its number.
  idOfSlot: (slot) => `peg${slot}`,
});
