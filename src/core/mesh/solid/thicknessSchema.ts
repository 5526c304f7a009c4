import { z } from 'zod';
import { length } from '../../math/measures';

/** How thick a surface is: what is drawn and sent out is a closed shell about it. */
export const thicknessSchema = z.object({
  outwards: length.default(0).describe('From the surface along its normals'),
  inwards: length.default(0.05).describe('From the surface against its normals'),
  rim: z.enum(['square', 'round']).default('square').describe('How its borders are closed'),
});

export type Thickness = z.infer<typeof thicknessSchema>;
