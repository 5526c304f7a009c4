import { z } from 'zod';
import { baseFields } from '../base';
import { degrees, share, vec3 } from '../../math/measures';
import { leaderGapsSchema } from '../steps/gapsSchema';
import { groundSchema } from '../steps/groundSchema';
import { handSchema } from '../steps/schema';
import { weightedSchema } from '../steps/weighted';
import { variationSchema } from '../steps/variationSchema';

/** Riders: on each placed prop of another arrangement one more, which goes with it. */

export const ridersSchema = z.object({
  ...baseFields('riders'),
  on: z.string().describe('The arrangement whose placed props they ride on'),
  only: z.array(z.string()).default([]).describe('Names of the slots that carry one; none: all'),
  props: weightedSchema,
  share: share.default(1).describe('How many of the leaders carry one, by chance'),
  seat: z
    .enum(['foot', 'top'])
    .default('top')
    .describe('Counted from the leader’s foot, or from what of it is highest there'),
  offset: vec3.default([0, 0, 0]).describe('Metres to the leader’s left, up and front; grow with its size'),
  turnDeg: degrees.default(0),
  tipDeg: degrees.default(0),
  rollDeg: degrees.default(0),
  size: z.number().min(1e-6).max(1000).default(1),
  landing: z
    .enum(['one', 'each', 'leader'])
    .default('one')
    .describe(
      'Where the leader lands: the rider goes with it as one; lands too, on its own; or stays where it was while the leader alone lands',
    ),
  ground: groundSchema.describe('For landing on its own'),
  variation: variationSchema,
  gaps: leaderGapsSchema,
  hand: handSchema,
});

export type Riders = z.infer<typeof ridersSchema>;
