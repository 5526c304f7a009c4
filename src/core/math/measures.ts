import { z } from 'zod';

/**
 * The values that documents are made of, each with the bounds within which everything that is worked out from it
 * stays finite. A schema says what a number is by taking one of these: it is then known too how it is shown.
 */

/** A number without a unit: a speed as a factor, a texture coordinate, a weight. */
export const plain = z.number().min(-1e6).max(1e6);
/** A coordinate or a signed length: a thousand kilometres to both sides, to a fifth of a nanometre in doubles. */
export const metres = z.number().min(-1e6).max(1e6).meta({ measure: 'length' });
/** A length that has no sign. */
export const length = z.number().min(0).max(1e6).meta({ measure: 'length' });
/** Any number of turns that still says where it ends. */
export const degrees = z.number().min(-1e6).max(1e6).meta({ measure: 'angle' });
/** A size: never nothing, never mirrored. */
export const factor = z.number().min(1e-6).max(1e6).meta({ measure: 'percent' });
/** Metres a unit, down to nanometres and up to a thousand kilometres. */
export const unitScale = z.number().min(1e-9).max(1e6);
/** Short, stable, never used again. */
export const id = z.string().min(1).max(64);
export const name = z.string().max(200);
/** What a node is gathered under in the lists: a name of people's, the same for all that are in it. */
export const group = name.min(1).optional().describe('Group of the lists that it is in; absent for none');
export const share = z.number().min(0).max(1).meta({ measure: 'percent' });
/** 32 bits: what the hash behind every random value takes in. */
export const seed = z.int().min(-2147483648).max(2147483647);
export const vec3 = z.tuple([metres, metres, metres]);
/** x, y, z, w. Taken as the rotation of the same direction of unit length. */
export const quaternion = z.tuple([
  z.number().min(-1e6).max(1e6),
  z.number().min(-1e6).max(1e6),
  z.number().min(-1e6).max(1e6),
  z.number().min(-1e6).max(1e6),
]);
