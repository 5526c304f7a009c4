import type { Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';

/** Where a place comes to. What it holds is written over for the next. */
export interface Moved {
  position: Vec3;
  /** From how it stood to how it stands. */
  turned: Quat;
  /** The way that it goes there, of any length; nothing where it stands still. */
  going: Vec3;
  /** Metres that it has made on its way, back negative. */
  made: number;
}

/**
 * Moves place `i` of those that it was made for. @param lean how far it goes with the normal of what it stands on: 0
 * stays upright @returns false where there is nothing any more
 */
export type Way = (i: number, lean: number, out: Moved) => boolean;

/** Places as they are before they go: xyz each, metres. */
export interface Places {
  count: number;
  position: Float64Array;
}

/** Where the i-th place is, metres. */
export const pointOf = ({ position }: Places, i: number): Vec3 => [
  position[i * 3],
  position[i * 3 + 1],
  position[i * 3 + 2],
];
