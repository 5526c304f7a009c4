import type { EdgeFrame } from './edge';

/** The ground that a facing takes, seen along its up: a rectangle from its frame. */
export interface Ground {
  /** Its middle, and half of it along and out. */
  x: number;
  z: number;
  along: [number, number];
  out: [number, number];
  halfAlong: number;
  halfOut: number;
  /** Half its diagonal. */
  reach: number;
}

/** @param width along the edge from the frame's origin @param from, to metres behind the edge */
export function groundOf({ origin, along, out }: EdgeFrame, width: number, from: number, to: number): Ground {
  const middle = (from + to) / 2;
  const [halfAlong, halfOut] = [width / 2, (to - from) / 2];
  return {
    x: origin[0] + along[0] * halfAlong - out[0] * middle,
    z: origin[2] + along[2] * halfAlong - out[2] * middle,
    along: [along[0], along[2]],
    out: [out[0], out[2]],
    halfAlong,
    halfOut,
    reach: Math.sqrt(halfAlong * halfAlong + halfOut * halfOut),
  };
}

/** How far two rectangles are apart along the axis that parts them best; negative where they reach into each other. */
export function apart(a: Ground, b: Ground): number {
  const [dx, dz] = [b.x - a.x, b.z - a.z];
  let best = -Infinity;
  for (const axis of [a.along, a.out, b.along, b.out]) {
    const between = Math.abs(dx * axis[0] + dz * axis[1]);
    best = Math.max(best, between - extent(a, axis) - extent(b, axis));
  }
  return best;
}

const extent = (g: Ground, [x, z]: [number, number]): number =>
  g.halfAlong * Math.abs(g.along[0] * x + g.along[1] * z) + g.halfOut * Math.abs(g.out[0] * x + g.out[1] * z);
