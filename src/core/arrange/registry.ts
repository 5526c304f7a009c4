import type { Arrangement } from '../scene/schema';
import type { RunResult } from '../evaluate/result';
import type { ArrangeContext } from './context';
import { runKind } from './run/kind';

/** One kind of arrangement. A new kind is a folder beside `run` and a line in {@link KINDS}. */
export interface ArrangementKind<A extends Arrangement = Arrangement> {
  /** Ids of the paths and props it depends on, in the order of first use. */
  dependsOn(arrangement: A): { paths: string[]; props: string[] };
  evaluate(arrangement: A, context: ArrangeContext): RunResult;
}

export const KINDS: { [K in Arrangement['kind']]: ArrangementKind<Extract<Arrangement, { kind: K }>> } = {
  run: runKind,
};
