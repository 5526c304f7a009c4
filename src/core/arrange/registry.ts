import type { Arrangement } from '../scene/schema';
import type { RunResult } from '../evaluate/result';
import type { ArrangeContext } from './context';
import { pegsKind } from './pegs/kind';
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
  evaluate(arrangement: A, context: ArrangeContext): RunResult;
}

export const KINDS: { [K in Arrangement['kind']]: ArrangementKind<Extract<Arrangement, { kind: K }>> } = {
  run: runKind,
  pegs: pegsKind,
};

/** The kind of an arrangement, as one type for all. */
export const kindOf = (a: Arrangement): ArrangementKind => KINDS[a.kind] as ArrangementKind;
