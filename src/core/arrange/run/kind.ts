import { defineKind } from '../kind';
import { propsByHand } from '../steps/byHand';
import { handRemoved } from '../steps/corrected';
import { allEntries, propsOfOrder } from '../steps/schema';
import { handWithout, orderWithout } from '../steps/withoutProp';
import { neededBy } from '../steps/keepOuts';
import { evaluateRun } from './evaluate';
import { runLoops } from './loops';
import { pulleyMoves } from './pulleyWay';
import { runSchema } from './schema';

/** The kind "run" as the registry lists it. */
export const runKind = defineKind({
  schema: runSchema,
  noun: 'slot',
  places: ['paths'],
  needs(run) {
    const paths = run.paths.map((p) => p.path);
    const kept = neededBy(run.gaps.keepOuts);
    paths.push(...kept.paths);
    const { arrangements } = kept;
    const { heading, target } = run.facing;
    if (heading === 'target' && target.kind === 'path') paths.push(target.path);
    if (heading === 'target' && target.kind === 'props') arrangements.push(target.arrangement);
    return {
      paths: [...new Set(paths)],
      props: [...new Set([...propsOfOrder(run.order), ...propsByHand(run.hand)])],
      arrangements: [...new Set(arrangements)],
      surfaces:
        run.ground.mode === 'none' ? [] : run.ground.surfaces.length > 0 ? run.ground.surfaces : 'all',
    };
  },
  moves: (run) => pulleyMoves(run.pulley),
  loops: runLoops,
  evaluate: evaluateRun,
  withoutProp: ({ order, hand }, prop) => ({
    order: orderWithout(order, prop),
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  renew({ order, gaps }, take) {
    for (const e of allEntries(order.entries)) e.id = take('entry');
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
  putAside: ({ facing }, by) => void (facing.side += by),
  moveToPath(copy, path) {
    copy.paths = [{ part: 0, path }];
    copy.gaps.keepOuts = copy.gaps.keepOuts.filter((k) => k.kind !== 'range');
    copy.hand = {};
  },
});
