import { z } from 'zod';
import { baseFields } from '../base';
import { metres, degrees, share, vec3, quaternion, plain } from '../../math/measures';
import { groundSchema } from '../steps/groundSchema';

/** Pegs: single props, each where it was put: in the scene, or pinned to its place on a surface. */

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

const pegSchema = z.object({
  id: z.string(),
  prop: z.string(),
  pin: pinSchema
    .nullable()
    .default(null)
    .describe('Held to a surface; position and rotation are then where it was last'),
  position: vec3.describe('Metres; where its foot stands'),
  rotation: quaternion.default([0, 0, 0, 1]).describe('Unit quaternion x, y, z, w'),
  scale: vec3.default([1, 1, 1]),
  tint: vec3.optional().describe('Linear red, green, blue, multiplied with its own colour'),
});

export const pegsSchema = z.object({
  ...baseFields('pegs'),
  ground: groundSchema,
  pegs: z.array(pegSchema).max(500000).default([]),
});

export type Pin = z.infer<typeof pinSchema>;
export type Peg = z.infer<typeof pegSchema>;
export type Pegs = z.infer<typeof pegsSchema>;
