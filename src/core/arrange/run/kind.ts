import type { ArrangementKind } from '../registry';
import { propsOfOrder } from '../steps/schema';
import { evaluateRun } from './evaluate';
import type { Run } from './schema';

/** The kind "run" as the registry lists it. */
export const runKind: ArrangementKind<Run> = {
  dependsOn(run) {
    const paths = run.paths.map((p) => p.path);
    const arrangements: string[] = [];
    for (const k of run.gaps.keepOuts) {
      if (k.kind === 'region') paths.push(k.path);
      if (k.kind === 'near') (k.of.kind === 'path' ? paths : arrangements).push(k.of.id);
    }
    const { heading, target } = run.facing;
    if (heading === 'target' && target.kind === 'path') paths.push(target.path);
    if (heading === 'target' && target.kind === 'props') arrangements.push(target.arrangement);
    const byHand = Object.values(run.hand).flatMap((h) =>
      [h.prop, h.lock?.prop].filter((p) => p !== undefined),
    );
    return {
      paths: [...new Set(paths)],
      props: [...new Set([...propsOfOrder(run.order), ...byHand])],
      arrangements: [...new Set(arrangements)],
      surfaces:
        run.ground.mode === 'none' ? [] : run.ground.surfaces.length > 0 ? run.ground.surfaces : 'all',
    };
  },
  moves: (run) => run.pulley.speed !== 0,
  evaluate: evaluateRun,
};
