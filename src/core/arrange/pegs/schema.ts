import { z } from 'zod';
import { baseFields } from '../base';
import { vec3, quaternion } from '../../math/measures';
import { pinSchema } from '../../mesh/pinSchema';
import { areaGapsSchema } from '../steps/gapsSchema';
import { groundSchema } from '../steps/groundSchema';
import { variationSchema } from '../steps/variationSchema';

/** Pegs: single props, each where it was put: in the scene, or pinned to its place on a surface. */

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
  variation: variationSchema,
  gaps: areaGapsSchema,
  pegs: z.array(pegSchema).max(500000).default([]),
});

export type Peg = z.infer<typeof pegSchema>;
export type Pegs = z.infer<typeof pegsSchema>;
