import { z } from 'zod';
import { baseFields } from '../base';
import { tieSchema } from '../../curve/hang/schema';
import { degrees, metres, quaternion, share, vec3 } from '../../math/measures';
import { pinSchema } from '../../mesh/pinSchema';
import { areaGapsSchema } from '../steps/gapsSchema';
import { groundSchema } from '../steps/groundSchema';
import { variationSchema } from '../steps/variationSchema';
import { travelSchema } from '../travel/schema';

/** Pegs: single props, each where it was put: in the scene, or pinned to its place on a surface. */

const sitsSchema = z.object({
  on: tieSchema,
  lift: metres.default(0).describe('Metres along its up'),
  turnDeg: degrees.default(0).describe('About its up, from the front of what it sits on'),
  lean: share.default(1).describe('1 stands along the direction of the snap point, 0 upright'),
});

const pegSchema = z.object({
  id: z.string(),
  prop: z.string(),
  pin: pinSchema
    .nullable()
    .default(null)
    .describe('Held to a surface; position and rotation are then where it was last'),
  sits: sitsSchema
    .optional()
    .describe('Connected to a snap point; position and rotation are then where it was last'),
  position: vec3.describe('Metres; where its foot stands'),
  rotation: quaternion.default([0, 0, 0, 1]).describe('Unit quaternion x, y, z, w'),
  scale: vec3.default([1, 1, 1]),
  tint: vec3.optional().describe('Linear red, green, blue, multiplied with its own colour'),
});

/** So many pegs a block holds at the most: few enough to be copied at every step of a drag. */
export const BLOCK_PEGS = 250;

export const pegsSchema = z.object({
  ...baseFields('pegs'),
  ground: groundSchema,
  variation: variationSchema,
  gaps: areaGapsSchema,
  pegs: z
    .array(z.array(pegSchema).max(BLOCK_PEGS))
    .max(4000)
    .default([])
    .describe('In blocks, one after the other: a change of one peg is a change of its block alone'),
  travel: travelSchema.optional(),
});

export type Sits = z.infer<typeof sitsSchema>;
export type Peg = z.infer<typeof pegSchema>;
export type Pegs = z.infer<typeof pegsSchema>;

/** A peg's number, from its id ("peg12"): its slot. */
export const pegNumber = (id: string): number => Number(/(\d+)$/.exec(id)?.[1] ?? 0);
