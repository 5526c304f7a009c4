import { z } from 'zod';
import { metres } from '../../math/measures';
import { pictureRefSchema } from '../meshRef';

/** What lies on a surface as maps in its texture coordinates. */

export const BAKED_MAPS = ['normal', 'height', 'occlusion', 'color', 'props'] as const;
export type BakedMap = (typeof BAKED_MAPS)[number];

const far = z.number().min(0.0001).max(1000);
const picture = pictureRefSchema.nullable().default(null);

export const bakedSchema = z.object({
  of: z
    .array(z.string())
    .max(10_000)
    .default([])
    .describe('Ids of the arrangements whose props and stamps are in the maps'),
  maps: z.array(z.enum(BAKED_MAPS)).default(['normal', 'occlusion', 'color']).describe('Those that are made'),
  size: z.int().min(16).max(8192).default(1024).describe('Pixels along each side'),
  within: z.int().min(1).max(4).default(1).describe('Each pixel is looked at at so many by so many places'),
  margin: z
    .int()
    .min(0)
    .max(64)
    .default(8)
    .describe('Pixels beyond the islands that go on as their borders do'),
  reach: far
    .default(0.1)
    .describe('Metres off the surface from which it is looked at: what is higher is not in the maps'),
  rays: z.int().min(1).max(256).default(16).describe('For the occlusion of each place'),
  shade: far.default(0.3).describe('Metres within which something takes light away'),
  shown: z.boolean().default(false).describe('Whether the surface wears them'),
  made: z
    .object({ normal: picture, height: picture, occlusion: picture, color: picture, props: picture })
    .nullable()
    .default(null)
    .describe('The maps as they were made last; their bytes are kept beside the document'),
  heights: z
    .tuple([metres, metres])
    .nullable()
    .default(null)
    .describe('Metres over the surface that black and white of the height are'),
});

export type Baked = z.infer<typeof bakedSchema>;
/** What maps are made by. */
export type BakeSettings = Pick<Baked, 'maps' | 'size' | 'within' | 'margin' | 'reach' | 'rays' | 'shade'>;
