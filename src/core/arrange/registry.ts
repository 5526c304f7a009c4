import type { Arrangement } from '../scene/schema';
import type { RunResult } from '../evaluate/result';
import type { ArrangeContext } from './context';
import { pegsKind } from './pegs/kind';
import { ridersKind } from './riders/kind';
import { sheetKind } from './sheet/kind';
import { spansKind } from './spans/kind';
import { runKind } from './run/kind';

/** What an arrangement is worked out from, ids in the order of first use. */
export interface Needs {
  paths: string[];
  props: string[];
  arrangements: string[];
  /** Surfaces it stands on; "all" are those that are shown. */
  surfaces: string[] | 'all';
}

/** One kind of arrangement. A new kind is a folder beside `run` and a line in {@link KINDS}. */
export interface ArrangementKind<A extends Arrangement = Arrangement> {
  dependsOn(arrangement: A): Needs;
  /** Whether it changes by itself with time. */
  moves(arrangement: A): boolean;
  /**
   * @param before the arrangement as it was, and what it came to, where all that it stands on is the same since: a
   * kind may work out just what changed, and says in `rows` what that is
   */
  evaluate(arrangement: A, context: ArrangeContext, before?: { node: A; result: RunResult }): RunResult;
}

const KINDS: { [K in Arrangement['kind']]: ArrangementKind<Extract<Arrangement, { kind: K }>> } = {
  run: runKind,
  pegs: pegsKind,
  riders: ridersKind,
  spans: spansKind,
  sheet: sheetKind,
};

const needs = new WeakMap<Arrangement, Needs>();

/** What an arrangement is worked out from. Documents never change, so each is looked through once. */
export function needsOf(a: Arrangement): Needs {
  let found = needs.get(a);
  if (!found) needs.set(a, (found = kindOf(a).dependsOn(a)));
  return found;
}

/** The kind of an arrangement, as one type for all. */
export const kindOf = (a: Arrangement): ArrangementKind => KINDS[a.kind] as ArrangementKind;
