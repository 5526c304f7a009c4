import type { Vec3 } from '../../math/vec3';

/** What keeps out wherever it is asked. */
export interface KeepsOut {
  (at: Vec3, slot: number): boolean;
  /** The same for many places at once, xyz each: 1 where they are kept out. */
  all?(position: Float64Array, slots: Float64Array): Uint8Array;
}
