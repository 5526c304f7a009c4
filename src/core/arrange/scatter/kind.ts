import { defineKind } from '../kind';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { handWithout, weightedWithout } from '../steps/withoutProp';
import { evaluateScatter } from './evaluate';
import { propsOf, scatterSchema, type Scatter } from './schema';

/** The kind "scatter" as the registry lists it. */
export const scatterKind = defineKind({
  schema: scatterSchema,
  noun: 'slot',
  places: ['over', 'brushed'],
  needs(scatter) {
    const { over, ground, gaps, stand, brushed } = scatter;
    const { paths, arrangements } = neededBy(gaps.keepOuts);
    if (over.kind === 'paths') paths.push(...over.paths);
    const { heading, target } = stand;
    if (heading === 'target' && target.kind === 'path') paths.push(target.path);
    if (heading === 'target' && target.kind === 'props') arrangements.push(target.arrangement);
    const filled = over.kind === 'surfaces' ? over.surfaces : over.kind === 'volume' ? [over.surface] : [];
    const own = [...new Set([...filled, ...brushed.map((s) => s.surface)])];
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
  withoutProp: ({ props, brushed, hand }, prop) => ({
    props: weightedWithout(props, prop),
    brushed: brushed.some((s) => s.does === 'prop' && s.prop === prop)
      ? brushed.filter((s) => s.does !== 'prop' || s.prop !== prop)
      : brushed,
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  renew({ gaps, brushed }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
    for (const s of brushed) s.id = take('stroke');
  },
  moveToPath(copy, path) {
    copy.over = { kind: 'paths', paths: [path] };
    leavePlaces(copy);
  },
  moveToSurface(copy, surface) {
    copy.over = { kind: 'surfaces', surfaces: [surface] };
    leavePlaces(copy);
  },
});

/** What belongs to places of the old area stays there. */
function leavePlaces(copy: Scatter): void {
  copy.hand = {};
  copy.brushed = [];
}
