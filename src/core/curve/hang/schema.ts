import { z } from 'zod';
import { degrees, length, seed, share } from '../../math/measures';

/** How a line hangs between its ends. */

export const windSchema = z.object({
  strength: z
    .number()
    .min(0)
    .max(20)
    .default(0.4)
    .describe('Its push on the line, of the line’s own weight: 1 blows it half way to level'),
  compassDeg: degrees.default(90).describe('Where it blows to, clockwise from north (−Z) as seen from above'),
  gusts: share.default(0.6).describe('How much of it comes and goes'),
  every: z.number().min(0.1).max(1000).default(3).describe('Seconds from gust to gust, about'),
  seed: seed.default(1),
});

export const liesSchema = z.object({
  surfaces: z.array(z.string()).max(1000).default([]).describe('Empty: all that are shown'),
  above: length.default(2).describe('Metres over the straight way; what is higher is a roof'),
  clear: z.number().min(0).max(1000).default(0).describe('Metres that it is kept above them'),
});

export const hangSchema = z.object({
  how: z
    .enum(['taut', 'sag', 'stiff'])
    .default('sag')
    .describe('Straight; hanging by its weight; or leaving each end in that one’s direction and bent evenly'),
  by: z
    .enum(['slack', 'length', 'sag'])
    .default('slack')
    .describe('What says how far: its length over the straight way, its length, or how deep it hangs'),
  slack: z.number().min(0).max(100).default(0.1).describe('Longer than straight by this share'),
  length: z.number().min(0).max(1e6).default(7).describe('Metres, of each side'),
  sag: length.default(1).describe('Metres that its lowest place hangs below the line between the ends'),
  loose: share.default(0).describe('Each by chance so much more or less'),
  lies: liesSchema
    .nullable()
    .default(null)
    .describe('Lies on surfaces where it would go through them; stiff lines do not'),
  wind: windSchema.nullable().default(null).describe('Blows what sags'),
});

/** What something is connected to, and goes with. */
export const tieSchema = z.discriminatedUnion('to', [
  z.object({
    to: z.literal('slot').describe('A placed prop: one of its snap points, or its foot'),
    arrangement: z.string(),
    slot: z.string(),
    snap: z.string().nullable().default(null),
  }),
  z.object({
    to: z.literal('point').describe('A point of a path, by its name there'),
    path: z.string(),
    point: z.string(),
  }),
]);

export type Hang = z.infer<typeof hangSchema>;
export type Lies = z.infer<typeof liesSchema>;
export type Wind = z.infer<typeof windSchema>;
export type Tie = z.infer<typeof tieSchema>;
