import { z } from 'zod';
import { id } from '../../math/measures';

/** A solid: a closed mesh that is joined or cut from others, step by step. */

export const solidStepSchema = z.object({
  id,
  how: z
    .enum(['join', 'cut', 'keep'])
    .default('join')
    .describe('Joined to what is there; cut out of it; or what is within it kept'),
  of: id.describe('The arrangement or surface whose meshes are taken'),
  on: z.boolean().default(true),
  mend: z
    .enum(['none', 'faces', 'voxels'])
    .default('none')
    .describe(
      'Of meshes that are not closed: left out; holes filled and faces turned; or made anew of small cells',
    ),
  grain: z
    .number()
    .min(0.0001)
    .max(1000)
    .default(0.05)
    .meta({ measure: 'length' })
    .describe('Mended: the widest hole that is filled, or the size of the cells'),
});

export const solidSchema = z.object({
  source: z.literal('solid').describe('Joined or cut from what is placed and from other surfaces, and live'),
  steps: z.array(solidStepSchema).default([]).describe('One after the other'),
});

export type SolidStep = z.infer<typeof solidStepSchema>;
export type SolidSpec = z.infer<typeof solidSchema>;
