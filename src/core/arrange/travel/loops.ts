import { whole } from '../../math/whole';
import type { Loops } from '../kind';
import type { Travel } from './schema';
import { travelMoves } from './schema';

/**
 * What of a travel has to be another number so that after a time all are where they were: whole turns, or whole rounds of
 * a closed path. Anything else has ends that none of its numbers tell.
 */
export function travelLoops(
  travel: Travel,
  { span, lengthOf }: { span: number; lengthOf(path: string): number | null },
): ReturnType<Loops<never>> {
  if (!travelMoves(travel)) return null;
  const { way, turn, along, path } = travel;
  const once = way === 'turn' ? 360 : way === 'along' && path !== null ? lengthOf(path) : null;
  if (!once) return 'leaves';
  const { speed } = way === 'turn' ? turn : along;
  return { field: ['travel', way, 'speed'], now: speed, value: (whole((speed * span) / once) * once) / span };
}
