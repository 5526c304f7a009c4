import { z } from 'zod';
import { id } from '../math/measures';

/** What a number is at a moment. */
const momentSchema = z.object({
  at: z.number().min(-1e6).max(1e6).describe('Seconds'),
  value: z.number().min(-1e6).max(1e6),
  way: z
    .enum(['eased', 'straight', 'held'])
    .default('eased')
    .describe('How it goes on to the next moment: slow at both ends, evenly, or not until then'),
});

/** A number of a node that changes with time. */
export const timedSchema = z.object({
  id,
  node: id.describe(
    'The path, surface, arrangement or light that has the number; “light” for that of the whole scene',
  ),
  field: z
    .array(z.string().max(64))
    .min(1)
    .max(12)
    .describe('Where in that node the number stands; what stands there counts when this is taken away'),
  moments: z
    .array(momentSchema)
    .min(1)
    .max(1000)
    .describe(
      'In any order; before the first and after the last it stays. A speed is added up over the time',
    ),
});

export type Moment = z.infer<typeof momentSchema>;
export type Timed = z.infer<typeof timedSchema>;
