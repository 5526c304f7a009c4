import type { ArrangementKind } from '../registry';
import { evaluateRiders } from './evaluate';
import type { Riders } from './schema';

/** The kind "riders" as the registry lists it. */
export const ridersKind: ArrangementKind<Riders> = {
  dependsOn({ on, props, landing, ground }) {
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
};
