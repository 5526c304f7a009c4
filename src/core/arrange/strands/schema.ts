import { z } from 'zod';
import { baseFields } from '../base';
import { factor } from '../../math/measures';
import { hangSchema } from '../../curve/hang/schema';
import { roomyGapsSchema } from '../steps/gapsSchema';
import { handSchema } from '../steps/schema';
import { weightedSchema } from '../steps/weighted';

/** Strands: lines hung between snap points of what other arrangements have placed. */

/** More lines than this are refused rather than freezing anything. */
export const MOST_LINES = 100_000;

const snap = z
  .string()
  .max(200)
  .nullable()
  .default(null)
  .describe('A snap point by its name; null: the foot');

export const strandsSchema = z.object({
  ...baseFields('strands'),
  from: z.object({ on: z.string().describe('The arrangement that lines hang from'), snap }),
  to: z
    .object({ on: z.string().nullable().default(null).describe('null: the same arrangement'), snap })
    .prefault({}),
  pairs: z
    .enum(['next', 'rows', 'same', 'nearest', 'cross', 'random'])
    .default('next')
    .describe(
      'From each to the next; to the same number of the next row; to the same number of the other arrangement; to what of it is nearest; crosswise; by chance',
    ),
  reach: z.int().min(1).max(1000).default(1).describe('Next: to the n-th after'),
  every: z.int().min(1).max(1000).default(1).describe('Only from every n-th'),
  hang: hangSchema.prefault({}),
  props: weightedSchema.describe('What lies along each line, drawn by weight; none: a bare line'),
  fit: z
    .enum(['stretch', 'repeat'])
    .default('stretch')
    .describe(
      'One as long as the line, its ends as they are; or as many as come nearest to their own length',
    ),
  size: factor.default(1).describe('Across the line'),
  gaps: roomyGapsSchema,
  hand: handSchema.describe('Corrections by hand, by the name of the slot that a line leaves from'),
});

export type Strands = z.infer<typeof strandsSchema>;
