import { z } from 'zod';
import { id } from '../math/measures';

/** A number of a node that is taken from what other things measure, and follows that. */
export const linkSchema = z.object({
  id,
  node: z.string().describe('The path, surface or arrangement that has the number'),
  field: z
    .array(z.string().max(64))
    .min(1)
    .max(12)
    .describe('Where in that node the number stands; what stands there serves where the link breaks'),
  expression: z
    .string()
    .min(1)
    .max(400)
    .describe(
      'Numbers (lengths in metres), + − × ÷ as + - * /, brackets, and measures in square brackets: [id.length] of a path, [id.count] of what an arrangement has placed, [id.wide], [id.long], [id.high] of a prop',
    ),
});

export type Link = z.infer<typeof linkSchema>;
