import { defineKind } from '../kind';
import { propsByHand } from '../steps/byHand';
import { handRemoved } from '../steps/corrected';
import { neededBy } from '../steps/keepOuts';
import { handWithout, weightedWithout } from '../steps/withoutProp';
import { evaluateRiders } from './evaluate';
import { ridersSchema } from './schema';

/** The kind "riders" as the registry lists it. */
export const ridersKind = defineKind({
  schema: ridersSchema,
  noun: 'rider',
  places: ['on', 'only'],
  needs({ on, props, landing, ground, gaps, hand }) {
    const lands = landing === 'each' && ground.mode !== 'none';
    const kept = neededBy(gaps.keepOuts);
    return {
      paths: [...new Set(kept.paths)],
      props: [...new Set([...props.map((p) => p.prop), ...propsByHand(hand)])],
      arrangements: [...new Set([on, ...kept.arrangements])],
      surfaces: !lands ? [] : ground.surfaces.length > 0 ? ground.surfaces : 'all',
    };
  },
  touches: ({ on }) => ({ on: [on], may: (slot, _, of) => slot === of, neighbours: false }),
  goesWith: ({ on, landing }) => (landing === 'one' ? on : null),
  moves: () => false,
  evaluate: evaluateRiders,
  withoutProp: ({ props, hand }, prop) => ({
    props: weightedWithout(props, prop),
    hand: handWithout(hand, prop),
  }),
  removeSlots: ({ hand }, slots, removed) => ({ hand: handRemoved(hand, slots, removed) }),
  putAside: ({ offset }, by) => void (offset[0] += by),
  renew({ gaps }, take) {
    for (const k of gaps.keepOuts) k.id = take('keep');
  },
});
