import { canTravel, travelOf, type Arrangement } from '@/core/arrange/registry';
import { newTravel, type Travel } from '@/core/arrange/travel/schema';
import { command } from '../command';
import { findArrangement } from './find';
import { describeChange } from './naming';

/** Commands for arrangements that travel as a whole. */

type Axis = 'u' | 'v' | 'along' | 'turn';

type CanTravel = Extract<Arrangement, { travel?: Travel }>;

/** What is set of a travel; of its ways just what they say. */
export type TravelValues = Partial<Omit<Travel, Axis>> & { [A in Axis]?: Partial<Travel[A]> };

const merged = (travel: Travel, values: TravelValues): Travel => {
  const out = { ...travel, ...values } as Travel;
  for (const axis of ['u', 'v', 'along', 'turn'] as const)
    if (values[axis]) Object.assign(out, { [axis]: { ...travel[axis], ...values[axis] } });
  return out;
};

/** Sets how an arrangement travels; null: it does not any more. */
export const setTravel = command<{ id: string; values: TravelValues | null }>({
  apply(scene, { id, values }) {
    const found = findArrangement(scene, id);
    if (!canTravel(found))
      throw new Error(`"${found.name}" cannot travel by itself: it goes with what it stands on.`);
    const a = found as CanTravel;
    if (values === null) delete a.travel;
    else a.travel = merged(a.travel ?? newTravel(), values);
  },
  name(before, _, { id, values }) {
    const found = findArrangement(before, id);
    const travel = travelOf(found);
    if (values === null) return `let “${found.name}” stay`;
    if (!travel) return `let “${found.name}” travel`;
    const axis = (['u', 'v', 'along', 'turn'] as const).find((a) => values[a]);
    if (!axis) return `travel: ${describeChange(travel, values, before.units)}`;
    return `travel ${WAYS[axis]}: ${describeChange(travel[axis], values[axis]!, before.units, { by: 'way' })}`;
  },
});

const WAYS: Record<Axis, string> = {
  u: 'along u',
  v: 'along v',
  along: 'along the path',
  turn: 'about its axis',
};
