import type { Vec3 } from '../math/vec3';

export const apart = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** How near the two nearest of some places are, by all pairs. */
export function closest(list: Vec3[]): number {
  let least = Infinity;
  for (let i = 0; i < list.length; i++)
    for (let k = i + 1; k < list.length; k++) least = Math.min(least, apart(list[i], list[k]));
  return least;
}

/** Length of the shortest net that holds places together, by Prim's way: what is nearest to all that is joined is next. */
export function shortestByPrim(places: readonly Vec3[]): number {
  const near = places.map((p) => apart(p, places[0]));
  const left = new Set(near.keys());
  left.delete(0);
  let sum = 0;
  while (left.size > 0) {
    const next = [...left].reduce((a, b) => (near[b] < near[a] ? b : a));
    sum += near[next];
    left.delete(next);
    for (const i of left) near[i] = Math.min(near[i], apart(places[i], places[next]));
  }
  return sum;
}
