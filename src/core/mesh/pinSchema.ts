import { z } from 'zod';
import { degrees, metres, plain, share } from '../math/measures';

/** A place of a surface that something is held to, and how it stands there: it follows every deformation. */
export const pinSchema = z.object({
  surface: z.string(),
  face: z.int().min(0).describe('Number of the triangle'),
  u: plain.describe('Weight of its second corner'),
  v: plain.describe('Weight of its third corner'),
  faces: z.int().describe('How many the surface had; with others it is found again by uv, or where it lay'),
  uv: z.tuple([plain, plain]).optional(),
  lift: metres.default(0).describe('Metres along its up'),
  turnDeg: degrees.default(0).describe('About its up, from the triangle’s first side'),
  lean: share.default(1).describe('1 stands square to the surface, 0 upright'),
});

export type Pin = z.infer<typeof pinSchema>;
