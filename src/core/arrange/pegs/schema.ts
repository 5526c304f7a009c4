import { z } from 'zod';

/** Pegs: single props, each where it was put. */

const vec3 = z.tuple([z.number(), z.number(), z.number()]);

export const pegSchema = z.object({
  id: z.string(),
  prop: z.string(),
  position: vec3.describe('Metres; where its foot stands'),
  rotation: z
    .tuple([z.number(), z.number(), z.number(), z.number()])
    .default([0, 0, 0, 1])
    .describe('Unit quaternion x, y, z, w'),
  scale: vec3.default([1, 1, 1]),
  tint: vec3.optional().describe('Linear red, green, blue, multiplied with its own colour'),
});

export const pegsSchema = z.object({
  id: z.string(),
  kind: z.literal('pegs'),
  name: z.string().max(200),
  thread: z.enum(['madder', 'woad', 'weld', 'moss', 'plum']),
  visible: z.boolean().default(true),
  pegs: z.array(pegSchema).max(500000).default([]),
});

export type Peg = z.infer<typeof pegSchema>;
export type Pegs = z.infer<typeof pegsSchema>;
