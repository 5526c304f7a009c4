import type { Vec3 } from '../../math/vec3';
import { nearestOnPath } from '../../curve/nearest';
import { STATE, type Placements } from '../result';
import type { ArrangeContext } from '../context';
import { parseSlotName } from '../slotId';
import type { Target } from './schema';

/** The place that a prop at `from` looks at; null where there is none. */
export type Aim = (from: Vec3) => Vec3 | null;

/** How to find what props look at; undefined where the scene does not have it. */
export function aimAt(target: Target, context: ArrangeContext): Aim | undefined {
  if (target.kind === 'point') return () => [...target.position];
  if (target.kind === 'path') {
    const compiled = context.path(target.path);
    if (!compiled?.ok) return undefined;
    return (from) => {
      let best: { distance: number; position: Vec3 } | null = null;
      for (const stroke of compiled.strokes) {
        const near = nearestOnPath(stroke, from);
        if (!best || near.distance < best.distance) best = near;
      }
      return best!.position;
    };
  }
  const placements = context.arrangement?.(target.arrangement);
  if (!placements) return undefined;
  const at = (i: number): Vec3 => [
    placements.position[i * 3],
    placements.position[i * 3 + 1],
    placements.position[i * 3 + 2],
  ];
  if (target.slot !== null) {
    const row = placements.slot.indexOf(parseSlotName(target.slot));
    return row >= 0 ? () => at(row) : undefined;
  }
  return (from) => {
    const row = nearestPlaced(placements, from);
    return row >= 0 ? at(row) : null;
  };
}

/** Row of the placed prop whose foot is nearest; -1 where none is placed. */
export function nearestPlaced(p: Placements, from: Vec3): number {
  let best = -1;
  let least = Infinity;
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const [x, y, z] = [
      p.position[i * 3] - from[0],
      p.position[i * 3 + 1] - from[1],
      p.position[i * 3 + 2] - from[2],
    ];
    const d = x * x + y * y + z * z;
    if (d < least) [best, least] = [i, d];
  }
  return best;
}
