import { z } from 'zod';
import { id, length, metres } from '../../math/measures';

/** A dust sheet: a surface let down from above over what stands there. */
export const dustSchema = z.object({
  source: z
    .literal('dust')
    .describe('A sheet let down from above over what is placed and over surfaces, and live'),
  over: z.array(id).default([]).describe('The arrangements and surfaces that it lies over'),
  cell: z.number().min(0.001).max(1000).default(0.05).meta({ measure: 'length' }).describe('How fine it is'),
  distance: length.default(0).describe('Kept from what it lies over'),
  softness: length.default(0.1).describe('How far it hangs free beside what holds it up'),
  beyond: length.default(0.3).describe('How far it reaches beyond what it lies over'),
  floor: metres
    .nullable()
    .default(null)
    .describe('The height that it comes down to; null: that of the lowest of what it lies over'),
  color: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .default('#E9E4D8'),
});

export type DustSpec = z.infer<typeof dustSchema>;
