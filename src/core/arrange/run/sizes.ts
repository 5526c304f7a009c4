import { quatRotate, DEG, quatTurnTipRoll } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import type { Bounds } from '../../mesh/mesh';
import type { ArrangeContext } from '../context';
import { boundsOf, type Say } from '../say';
import { propsByHand } from '../steps/byHand';
import type { Facing } from '../steps/schema';
import { propsOfOrder } from '../steps/schema';
import type { Run } from './schema';

/** A run's pitch where none is set: this many times the longest of its props, so that there is air between them. */
const AUTO_PITCH_FACTOR = 1.5;

/** What a run knows of its props. */
export interface PropSizes {
  ids: string[];
  bounds: (Bounds | undefined)[];
  /** Length along the front axis, metres; 0 where the mesh is not at hand. */
  lengths: number[];
  longest: number;
}

/** Every prop that a run may place, swaps and locks by hand included, with what is wrong with them. */
export function gatherProps(run: Run, context: ArrangeContext, say: Say): PropSizes {
  const ordered = propsOfOrder(run.order);
  const ids = [...new Set([...ordered, ...propsByHand(run.hand)])];
  const bounds = boundsOf(ids, context, say);
  const lengths = bounds.map((b) => (b ? b.max[2] - b.min[2] : 0));
  const widest = Math.max(0, ...lengths.slice(0, ordered.length)) * run.facing.size;
  return { ids, bounds, lengths, longest: widest > 1e-6 ? widest : 1 };
}

/** A pitch that reads well: two digits of the footprint's multiple. */
export function autoPitch(longest: number): number {
  return Number((longest * AUTO_PITCH_FACTOR).toPrecision(2));
}

/**
 * How far a prop reaches back and forth along the path from its foot, by its box turned to the heading. Headings that
 * do not follow the path count with the prop's own length.
 */
export function reachAlong(bounds: Bounds, facing: Facing, outward: number): { back: number; front: number } {
  const heading = { along: 0, across: -90, outward: outward > 0 ? 90 : -90, compass: 0, target: 0 }[
    facing.heading
  ];
  const turn = facing.heading === 'compass' || facing.heading === 'target' ? 0 : heading + facing.turnDeg;
  const q = quatTurnTipRoll(turn * DEG, 0, 0);
  let back = Infinity;
  let front = -Infinity;
  for (let corner = 0; corner < 4; corner++) {
    const p: Vec3 = [
      corner & 1 ? bounds.max[0] : bounds.min[0],
      0,
      corner & 2 ? bounds.max[2] : bounds.min[2],
    ];
    const z = quatRotate(q, p)[2];
    back = Math.min(back, z);
    front = Math.max(front, z);
  }
  return { back: -back, front };
}
