import { z } from 'zod';
import { tieSchema } from '../curve/hang/schema';
import { id, name, vec3 } from '../math/measures';

/** A measure that is kept in the scene: a dimension line between places, which goes with what they are connected to. */
export const measureSchema = z.object({
  id,
  name,
  places: z
    .array(
      z.object({
        position: vec3.describe('x, y, z: where it was when it was measured'),
        tie: tieSchema.optional().describe('What it is connected to, and goes with'),
      }),
    )
    .min(2)
    .max(3)
    .describe('Two for a distance; three for the angle at the second'),
  visible: z.boolean().default(true),
});

export type MeasuredPlace = z.infer<typeof measureSchema>['places'][number];
