import { z } from 'zod';
import { group, id, name, vec3 } from '../math/measures';

/** A bundle: arrangements that place as one prop. The prop is in the basket, with a mesh of source "bundle". */
export const bundleSchema = z.object({
  id,
  name: name.default('Bundle'),
  group,
  members: z
    .array(z.object({ id: z.string(), shown: z.boolean().default(true) }))
    .max(4000)
    .default([])
    .describe(
      'Nodes of this scene that are in it: hidden here, and placed with every copy; whether each is shown there',
    ),
  origin: vec3
    .default([0, 0, 0])
    .describe('The place of the scene that is the origin of its mesh, metres: there it was made'),
  alike: z.boolean().default(false).describe('All copies are alike; else each draws its random values anew'),
  open: z.boolean().default(false).describe('Its members show in the scene, to be edited'),
});

export type Bundle = z.infer<typeof bundleSchema>;
