import { z } from 'zod';
import type { Thread } from './base';
import type { Kind, Needs } from './kind';
import { surfacesOfLocks } from './steps/lock';
import { masksOfSteps } from './steps/masksOf';
import { posesPlay } from './poses/schema';
import type { Release } from './release/schema';
import { travelMoves, type Travel } from './travel/schema';
import { pegsKind } from './pegs/kind';
import { ridersKind } from './riders/kind';
import { runKind } from './run/kind';
import { scatterKind } from './scatter/kind';
import { sheetKind } from './sheet/kind';
import { spansKind } from './spans/kind';
import { stockKind } from './stock/kind';
import { strandsKind } from './strands/kind';

/** Every kind of arrangement. A further one is a folder beside these, and its line here. */
const KINDS = [
  runKind,
  pegsKind,
  ridersKind,
  spansKind,
  sheetKind,
  scatterKind,
  strandsKind,
  stockKind,
] as const;

type Schemas<L> = { -readonly [I in keyof L]: L[I] extends { schema: infer S } ? S : never };

/** An arrangement of any kind, as a document has it. */
export const arrangementSchema = z.discriminatedUnion(
  'kind',
  KINDS.map((k) => k.schema) as unknown as Schemas<typeof KINDS>,
);

export type Arrangement = z.infer<typeof arrangementSchema>;
export type KindName = Arrangement['kind'];
/** The arrangements that have a block of settings of that name, of whatever kind they are. */
export type With<B extends string> = Extract<Arrangement, Record<B, unknown>>;

/**
 * Whether an arrangement has these blocks of settings: what it can.
 *
 * @example
 * if (has(arrangement, 'hand')) arrangement.hand; // a run, a sheet, …
 */
export const has = <B extends string>(a: Arrangement | undefined, ...blocks: B[]): a is With<B> =>
  a !== undefined && blocks.every((b) => b in a);

const byName = new Map(KINDS.map((k) => [k.schema.shape.kind.value as KindName, k as unknown as Kind]));

/** The kind of an arrangement, as one type for all. */
export const kindOf = (a: Pick<Arrangement, 'kind'>): Kind => byName.get(a.kind)!;

/** A new arrangement of a kind, everything that `values` do not say at its default. */
export const newArrangement = <K extends KindName>(
  kind: K,
  base: { id: string; name: string; thread: Thread },
  values: object = {},
): Extract<Arrangement, { kind: K }> =>
  byName.get(kind)!.schema.parse({ ...base, ...values, id: base.id, kind }) as Extract<
    Arrangement,
    { kind: K }
  >;

const needs = new WeakMap<Arrangement, Needs>();

/**
 * What an arrangement is worked out from. A document's values are never written over, so each is looked through once.
 * @param was the arrangement as it was before, if that was looked through: of many pegs only those that changed are
 */
export function needsOf(a: Arrangement, was?: Arrangement): Needs {
  let found = needs.get(a);
  if (!found) {
    const before = was && was.kind === a.kind ? needs.get(was) : undefined;
    found = kindOf(a).needs(a, before && { node: was!, needs: before });
    const locks = 'hand' in a ? surfacesOfLocks(a.hand) : [];
    if (locks.length > 0) found = { ...found, locks: [...(found.locks ?? []), ...locks] };
    const masks = [...new Set([...(found.masks ?? []), ...masksOfSteps(a)])];
    if (masks.length > 0) found = { ...found, masks };
    const swapped = a.within?.flatMap(({ hand }) => hand.prop ?? []) ?? [];
    if (swapped.length > 0) found = { ...found, props: [...new Set([...found.props, ...swapped])] };
    if (a.release?.on) found = neededByRelease(found, a.release);
    if (travelOf(a)?.on) found = neededByTravel(found, travelOf(a)!);
    needs.set(a, found);
  }
  return found;
}

/** What falls stands on what it falls onto too. */
function neededByRelease(needs: Needs, { onto, against, who, region }: Release): Needs {
  const together = (a: readonly string[], b: readonly string[]) => [...new Set([...a, ...b])];
  return {
    ...needs,
    surfaces: onto.length === 0 || needs.surfaces === 'all' ? 'all' : together(needs.surfaces, onto),
    arrangements: together(needs.arrangements, against),
    ...(who === 'region' && { paths: together(needs.paths, region) }),
  };
}

/** What goes on stands on what it goes on. */
function neededByTravel(needs: Needs, { way, surface, path }: Travel): Needs {
  const { paths } = needs;
  return {
    ...needs,
    ...(way === 'along' && path !== null && { paths: [...new Set([...paths, path])] }),
    // Shown or not.
    ...(surface !== null && { locks: [...new Set([...(needs.locks ?? []), surface])] }),
  };
}

/** How an arrangement travels; absent where it does not, or where its kind cannot. */
export const travelOf = (a: Arrangement): Travel | undefined => ('travel' in a ? a.travel : undefined);

/** Whether an arrangement of that kind can travel. */
export const canTravel = ({ kind }: Pick<Arrangement, 'kind'>): boolean =>
  'travel' in byName.get(kind)!.schema.shape;

/** Whether an arrangement changes by itself with time as long as it holds what it has placed. */
export const movesWhileHeld = (a: Arrangement): boolean => {
  const travel = travelOf(a);
  return (
    (travel !== undefined && travelMoves(travel)) ||
    (a.poses !== undefined && posesPlay(a.poses)) ||
    kindOf(a).moves(a)
  );
};

/** Whether an arrangement changes by itself with time. */
export const movesInTime = (a: Arrangement): boolean => a.release?.on === true || movesWhileHeld(a);

/** An arrangement as it is without a prop. */
export function withoutProp(a: Arrangement, prop: string): Arrangement {
  const left = { ...a, ...kindOf(a).withoutProp(a, prop) } as Arrangement;
  if (a.within?.some(({ hand }) => hand.prop === prop)) {
    // Swapped for what is gone: what was there before stands there again, as far as a hand has not moved it.
    left.within = a.within.flatMap((w) => {
      if (w.hand.prop !== prop) return [w];
      const { prop: _, ...hand } = w.hand;
      return Object.keys(hand).length > 0 ? [{ ...w, hand }] : [];
    });
  }
  return left;
}

/** The surfaces that needs name. @param shown those that "all" are */
export function surfacesOf({ surfaces, locks }: Needs, shown: readonly string[]): string[] {
  const own = surfaces === 'all' ? [...shown] : surfaces;
  return locks ? [...new Set([...own, ...locks])] : own;
}
