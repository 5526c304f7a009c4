import { z } from 'zod';
import { id, length } from '../../math/measures';

/** A network: lines that cross or nearly meet, as one closed solid. */
export const networkSchema = z.object({
  source: z.literal('network').describe('Tubes along paths, closed and joined where these meet, and live'),
  paths: z.array(id).default([]),
  radius: z.number().min(0.0001).max(1000).default(0.05).meta({ measure: 'length' }).describe('Of its tubes'),
  joint: length
    .default(0.08)
    .describe('Radius of the balls that round its joints; what is less than a tube is as a tube'),
  reach: length.default(0.05).describe('Lines whose tubes are this far apart are still joined'),
  sides: z.int().min(3).max(64).default(12).describe('Of a tube'),
  color: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .default('#D8CDB6'),
});

export type NetworkSpec = z.infer<typeof networkSchema>;
