import { atan2 } from '@/core/math/portable';
import { cross, distance, dot, length, sub, type Vec3 } from '@/core/math/vec3';

/** What lies between places, in metres and degrees. */
export interface Measured {
  straight: number;
  /** As seen from above, and how much higher the second is. */
  level: number;
  rise: number;
  /** At the second of three, between the ways to the others. */
  angleDeg: number | null;
}

/** @param places two, or three for an angle */
export function measured(places: readonly Vec3[]): Measured {
  const [a, b, c] = places;
  const way = sub(b, a);
  const angleDeg = c ? (angleBetween(sub(a, b), sub(c, b)) * 180) / Math.PI : null;
  return { straight: distance(a, b), level: length([way[0], 0, way[2]]), rise: way[1], angleDeg };
}

/** Between two directions, radians; exact for small ones and for nearly half turns too. */
const angleBetween = (u: Vec3, v: Vec3): number => atan2(length(cross(u, v)), dot(u, v));
