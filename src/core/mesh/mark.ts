import type { Vec3 } from '../math/vec3';

/** A place of the scene that shows what is told, or a line between several. */
export type Mark = Vec3[];

/** So many are kept for one thing that is told: more could not be told apart. */
export const MOST_MARKS = 200;
