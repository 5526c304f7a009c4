import { z } from 'zod';
import { degrees } from '../math/measures';

/** A picture of all that is around: twice as wide as it is high, all directions in it. */
const panoramaRefSchema = z.object({
  hash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .describe('SHA-256 of the file’s bytes'),
  format: z.enum(['hdr', 'png', 'jpeg']),
  fileName: z.string().max(200).default('panorama.hdr'),
});

/** What is around a scene, for what mirrors it. */
export const surroundSchema = z.object({
  by: z
    .enum(['sky', 'panels', 'panorama'])
    .default('sky')
    .describe(
      'What smooth things and metals reflect: the sky, a room of soft panels, or a panorama of one’s own',
    ),
  panorama: panoramaRefSchema.nullable().default(null),
  turnDeg: degrees.default(0).describe('Clockwise, seen from above'),
  brightness: z.number().min(0).max(1e9).default(1).describe('Of the panels, or of the panorama'),
  lights: z.boolean().default(true).describe('Whether the panorama gives the light of the sky, too'),
  seen: z.boolean().default(true).describe('Whether the panorama is seen behind the scene'),
});

export type Surround = z.infer<typeof surroundSchema>;
