import { z } from 'zod';
import { glowSchema } from '../light/lampSchema';
import { id, name } from '../math/measures';
import { pictureRefSchema } from './meshRef';

/** Materials that are made by hand: each has a name, and whatever wears it changes with it. */

const times = z.number().min(0.001).max(10000).default(1);

export const materialSchema = z.object({
  id,
  name,
  color: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .nullable()
    .default('#d9cdb8')
    .describe('null: whatever wears it keeps its own colours and pictures'),
  roughness: z.number().min(0).max(1).default(0.6).describe('0 mirrors, 1 is as dull as chalk'),
  metal: z.number().min(0).max(1).default(0).describe('1: it reflects in its own colour, as metals do'),
  glow: glowSchema.nullable().default(null).describe('Its own light; null: none'),
  picture: pictureRefSchema
    .nullable()
    .default(null)
    .describe('Laid over it by its texture coordinates, times its colour'),
  repeatU: times.describe('How often the picture goes along u'),
  repeatV: times.describe('How often it goes along v'),
});

export type Material = z.infer<typeof materialSchema>;

/** What names the material that something wears. */
export const wears = id
  .nullable()
  .default(null)
  .describe('Id of a material made by hand; null: its own look');
