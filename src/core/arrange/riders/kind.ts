import { defineKind } from '../kind';
import { weightedWithout } from '../steps/withoutProp';
import { evaluateRiders } from './evaluate';
import { ridersSchema } from './schema';

/** The kind "riders" as the registry lists it. */
export const ridersKind = defineKind({
  schema: ridersSchema,
  noun: 'rider',
  needs({ on, props, landing, ground }) {
    const lands = landing === 'each' && ground.mode !== 'none';
    return {
      paths: [],
      props: [...new Set(props.map((p) => p.prop))],
      arrangements: [on],
      surfaces: !lands ? [] : ground.surfaces.length > 0 ? ground.surfaces : 'all',
    };
  },
  moves: () => false,
  evaluate: evaluateRiders,
  withoutProp: ({ props }, prop) => ({ props: weightedWithout(props, prop) }),
});
