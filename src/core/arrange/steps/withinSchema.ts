import { z } from 'zod';
import { degrees, factor, metres } from '../../math/measures';

/** What a hand corrects of single props within the copies of bundles that an arrangement has placed. */

const stepSchema = z.object({ arrangement: z.string(), slot: z.string() });

const correctionSchema = z.object({
  removed: z.boolean().optional().describe('false: kept in spite of chance and keep-outs'),
  prop: z.string().optional().describe('Another prop in its place'),
  along: metres.optional().describe('Metres moved along its path'),
  side: metres.optional().describe('Metres moved to the right'),
  lift: metres.optional().describe('Metres moved up'),
  turnDeg: degrees.optional(),
  size: factor.optional(),
});

export const withinSchema = z
  .array(
    z.object({
      way: z
        .array(stepSchema)
        .min(2)
        .max(33)
        .describe(
          'From outside in: this arrangement and the slot of the copy, then an arrangement in that and its slot, and so on',
        ),
      hand: correctionSchema,
    }),
  )
  .max(100_000)
  .optional()
  .describe('Corrections by hand of single props within the copies of bundles that it has placed');

export type Within = NonNullable<z.infer<typeof withinSchema>>;
export type WayStep = z.infer<typeof stepSchema>;
export type WithinCorrection = z.infer<typeof correctionSchema>;
