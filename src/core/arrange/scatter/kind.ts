import { defineKind } from '../kind';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { handWithout, weightedWithout } from '../steps/withoutProp';
import { evaluateScatter } from './evaluate';
import { propsOf, scatterSchema } from './schema';

/** The kind "scatter" as the registry lists it. */
export const scatterKind = defineKind({
  schema: scatterSchema,
  noun: 'slot',
  needs(scatter) {
    const { over, ground, gaps, stand } = scatter;
    const { paths, arrangements } = neededBy(gaps.keepOuts);
    if (over.kind === 'paths') paths.push(...over.paths);
    const { heading, target } = stand;
    if (heading === 'target' && target.kind === 'path') paths.push(target.path);
    if (heading === 'target' && target.kind === 'props') arrangements.push(target.arrangement);
    const own = over.kind === 'surfaces' ? over.surfaces : over.kind === 'volume' ? [over.surface] : [];
    const lands = ground.mode !== 'none';
    return {
      paths: [...new Set(paths)],
      props: propsOf(scatter),
      ...(scatter.spread.mask !== null && { masks: [scatter.spread.mask] }),
      arrangements: [...new Set(arrangements)],
      // All that are shown, and its own among them, shown or not.
      ...(lands && ground.surfaces.length === 0
        ? { surfaces: 'all' as const, locks: own }
        : { surfaces: [...new Set([...own, ...(lands ? ground.surfaces : [])])] }),
    };
  },
  moves: () => false,
  evaluate: evaluateScatter,
  withoutProp: ({ props, hand }, prop) => ({
    props: weightedWithout(props, prop),
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  renew({ gaps }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
  moveToPath(copy, path) {
    copy.over = { kind: 'paths', paths: [path] };
    copy.hand = {};
  },
});
