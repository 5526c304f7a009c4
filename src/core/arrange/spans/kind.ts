import { defineKind } from '../kind';
import { propsByHand } from '../steps/byHand';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { handWithout, weightedWithout } from '../steps/withoutProp';
import { evaluateSpans } from './evaluate';
import { spansSchema } from './schema';

/** The kind "spans" as the registry lists it. */
export const spansKind = defineKind({
  schema: spansSchema,
  noun: 'member',
  places: ['on', 'divisions'],
  // The posts' own paths are worked out before them: a member follows what they stand on.
  needs({ on, divisions, props, corner, gaps, hand }) {
    const kept = neededBy(gaps.keepOuts);
    const drawn = props.map((p) => p.prop);
    return {
      paths: [...new Set([...(divisions ? [divisions.path] : []), ...kept.paths])],
      props: [...new Set([...drawn, ...propsByHand(hand), ...(corner ? [corner.prop] : [])])],
      arrangements: [...new Set([...(divisions ? [] : [on]), ...kept.arrangements])],
      surfaces: [],
    };
  },
  touches: ({ on, divisions }) => ({ on: divisions ? [] : [on], may: () => true, neighbours: true }),
  hasAxes: true,
  moves: () => false,
  evaluate: evaluateSpans,
  withoutProp: ({ props, corner, hand }, prop) => ({
    props: weightedWithout(props, prop),
    corner: corner?.prop === prop ? null : corner,
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  snapNames: ({ on, from, to }) => [
    { on, snap: from.snap, path: ['from', 'snap'] },
    { on, snap: to.snap, path: ['to', 'snap'] },
  ],
  renew({ gaps }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
});
