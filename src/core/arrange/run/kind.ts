import type { ArrangementKind } from '../registry';
import { evaluateRun } from './evaluate';
import type { Run } from './schema';

/** The kind "run" as the registry lists it. */
export const runKind: ArrangementKind<Run> = {
  dependsOn: (run) => ({
    paths: [...new Set(run.paths.map((p) => p.path))],
    props: [...new Set(run.order.entries.flatMap((e) => (e.item.kind === 'prop' ? [e.item.prop] : [])))],
  }),
  evaluate: evaluateRun,
};
