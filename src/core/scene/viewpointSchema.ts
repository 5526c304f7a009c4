import { z } from 'zod';
import { id, length, name, vec3 } from '../math/measures';

/** A kept way of looking at a scene, with its frame. */
export const viewpointSchema = z.object({
  id,
  name,
  eye: vec3.describe('x, y, z'),
  aim: vec3.describe('x, y, z: the middle of the frame'),
  focal: z
    .number()
    .min(8)
    .max(800)
    .default(35)
    .describe('Focal length, mm, of a frame 24 mm high: 35 sees as people do, 85 is for portraits'),
  aspect: z.number().min(0.1).max(10).default(1.5).describe('Width of the frame, as a share of its height'),
  focus: z
    .object({
      distance: length.min(0.01).default(10).describe('Metres from the eye at which all is sharp'),
      aperture: z.number().min(0.5).max(64).default(2.8).describe('f-number: smaller ones blur more'),
    })
    .nullable()
    .default(null)
    .describe('What is sharp; null: everything'),
});

export type Viewpoint = z.infer<typeof viewpointSchema>;
