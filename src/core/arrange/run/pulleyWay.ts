import type { Pulley } from '../steps/schema';

/** Where a run has room to be moved: metres. */
interface Room {
  /** From end to end of the path, or once round it. */
  whole: number;
  /** How far it can go back and on without any of it leaving the path; 0 and more. Absent on loops: there is no end. */
  back?: number;
  on?: number;
}

/**
 * How far a pulley has moved a run along its path, metres. With a duration it goes from end to end of the path in that
 * time, however long the path is; what stays at the ends or turns there goes over the room that it has.
 * @param time seconds
 */
export function pulleyWay(pulley: Pulley, time: number, { whole, back, on }: Room): number {
  const { offset, speed, duration, ends } = pulley;
  const isFree = back === undefined || on === undefined || ends === 'clip' || ends === 'wrap';
  const span = isFree ? whole : back + on;
  const aSecond = duration === null ? speed : (speed < 0 ? -span : span) / duration;
  const way = offset + aSecond * time;
  if (isFree) return way;
  if (ends === 'stay') return Math.min(on, Math.max(-back, way));
  if (span <= 0) return 0;
  const far = (((way + back) % (2 * span)) + 2 * span) % (2 * span);
  return (far <= span ? far : 2 * span - far) - back;
}

/** Whether a pulley moves its run while the time runs. */
export const pulleyMoves = ({ speed, duration }: Pulley): boolean => speed !== 0 || duration !== null;
