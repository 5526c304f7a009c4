import { z } from 'zod';
import { baseFields } from '../base';

import {
  facingSchema,
  gapsSchema,
  groundSchema,
  handSchema,
  orderSchema,
  pulleySchema,
  spacingSchema,
  variationSchema,
} from '../steps/schema';
import { travelSchema } from '../travel/schema';

/** A run: props along one or more paths. One block of settings per step, in the order of the work. */
export const runSchema = z.object({
  ...baseFields('run'),
  paths: z
    .array(z.object({ part: z.int().min(0).max(4095), path: z.string() }))
    .describe('The paths it stands on; `part` is the stable number that its slot ids carry'),
  order: orderSchema,
  spacing: spacingSchema,
  ground: groundSchema,
  facing: facingSchema,
  variation: variationSchema,
  gaps: gapsSchema,
  hand: handSchema,
  pulley: pulleySchema,
  travel: travelSchema.optional(),
});

export type Run = z.infer<typeof runSchema>;
