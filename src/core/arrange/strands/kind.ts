import { defineKind } from '../kind';
import { handRemoved } from '../steps/corrected';
import { liesOn } from '../../mesh/lines/groundUnder';
import { neededBy } from '../steps/keepOuts';
import { handWithout, weightedWithout } from '../steps/withoutProp';
import { evaluateStrands } from './evaluate';
import { hungStrokes, propsOf } from './lines';
import { strandsSchema } from './schema';

/** The kind "strands" as the registry lists it. */
export const strandsKind = defineKind({
  schema: strandsSchema,
  noun: 'line',
  places: ['from', 'to'],
  needs(strands) {
    const { paths, arrangements } = neededBy(strands.gaps.keepOuts);
    const { from, to } = strands;
    const on = liesOn(strands.hang);
    return {
      paths,
      props: propsOf(strands),
      arrangements: [...new Set([from.on, ...(to.on === null ? [] : [to.on]), ...arrangements])],
      surfaces: on === 'all' ? on : [...on],
    };
  },
  touches: ({ from, to }) => ({
    on: to.on === null ? [from.on] : [from.on, to.on],
    may: () => true,
    neighbours: true,
  }),
  moves: ({ hang }) => hang.how === 'sag' && hang.wind !== null && hang.wind.strength > 0,
  evaluate: evaluateStrands,
  hung: hungStrokes,
  withoutProp: ({ props, hand }, prop) => ({
    props: weightedWithout(props, prop),
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  snapNames: ({ from, to }) => [
    { on: from.on, snap: from.snap, path: ['from', 'snap'] },
    { on: to.on ?? from.on, snap: to.snap, path: ['to', 'snap'] },
  ],
  renew({ gaps }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
});
