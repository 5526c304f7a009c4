import { whole } from '../../math/whole';
import type { Loops } from '../kind';
import type { Run } from './schema';

/** A run comes to itself by its whole path; where all its slots are alike by a pitch. */
export const runLoops: Loops<Run> = (run, { span, facts, isClosed }) => {
  const { speed, duration, ends } = run.pulley;
  if (speed === 0 && duration === null) return null;
  const isLoop = run.paths.every(({ path }) => isClosed(path));
  if (duration !== null) {
    if (!isLoop && (ends === 'clip' || ends === 'stay')) return 'leaves';
    // There and back is once.
    const once = !isLoop && ends === 'turn' ? 2 : 1;
    const value = span / (once * whole(span / (once * duration)));
    return { field: ['pulley', 'duration'], now: duration, value };
  }
  if (!facts || !(facts.pitch > 0) || run.paths.length !== 1 || (!isLoop && ends !== 'wrap')) return 'leaves';
  if (!isLoop && !isAlike(run)) return 'leaves';
  const way = isLoop && !isAlike(run) ? facts.length : facts.pitch;
  return { field: ['pulley', 'speed'], now: speed, value: (whole((speed * span) / way) * way) / span };
};

/** Whether every slot of a run looks like the next: one prop, no chance, no hand. */
const isAlike = ({ order, variation, gaps, hand, spacing }: Run): boolean =>
  order.entries.length === 1 &&
  !order.first &&
  !order.last &&
  !order.corner &&
  Object.keys(hand).length === 0 &&
  gaps.chance === 0 &&
  gaps.taken.share === 0 &&
  spacing.density.length === 0 &&
  spacing.looseBy === 0 &&
  [variation.turnDeg, variation.tipDeg, variation.rollDeg, variation.size].every(
    (range) => range[0] === range[1],
  ) &&
  variation.tint.colors.length === 0;
