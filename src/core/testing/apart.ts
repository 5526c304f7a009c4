import type { Vec3 } from '../math/vec3';

export const apart = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** How near the two nearest of some places are, by all pairs. */
export function closest(list: Vec3[]): number {
  let least = Infinity;
  for (let i = 0; i < list.length; i++)
    for (let k = i + 1; k < list.length; k++) least = Math.min(least, apart(list[i], list[k]));
  return least;
}
