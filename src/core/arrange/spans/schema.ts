import { z } from 'zod';
import { baseFields } from '../base';
import { degrees, vec3 } from '../../math/measures';
import { roomyGapsSchema } from '../steps/gapsSchema';
import { divisionFields, handSchema } from '../steps/schema';
import { weightedSchema } from '../steps/weighted';

/** Spans: members between neighbouring props of another arrangement, from post to post. */

const endSchema = z
  .object({
    snap: z
      .string()
      .max(200)
      .nullable()
      .default(null)
      .describe('A snap point of the post by its name; null: its foot'),
    offset: vec3
      .default([0, 0, 0])
      .describe('Metres to the post’s left, up and front from there; grow with its size'),
  })
  .prefault({});

export const spansSchema = z.object({
  ...baseFields('spans'),
  on: z.string().default('').describe('The arrangement whose props are the posts'),
  divisions: z
    .object({ path: z.string(), ...divisionFields })
    .nullable()
    .default(null)
    .describe('Without posts: the divisions of a path instead'),
  props: weightedSchema,
  from: endSchema.describe('Where a member leaves its post'),
  to: endSchema.describe('Where it meets the next one'),
  fit: z
    .enum(['stretch', 'repeat', 'cut', 'trim'])
    .default('stretch')
    .describe(
      'One member, as long as it has to be; as many as come nearest to their own length, evened out; whole ones, the last cut off; or one, cut off where it is longer and in the middle where it is shorter',
    ),
  follow: z.boolean().default(false).describe('Along the path of the posts instead of straight'),
  corner: z
    .object({
      prop: z.string(),
      angleDeg: z.number().min(0).max(180).default(20).describe('Where members turn by more'),
    })
    .nullable()
    .default(null)
    .describe('A prop at the posts where two members meet at an angle'),
  reach: z.int().min(1).max(1000).default(1).describe('To the n-th post after'),
  every: z.int().min(1).max(1000).default(1).describe('Only from every n-th post'),
  inset: z.number().min(0).max(1e4).default(0).describe('Metres left free at both ends'),
  longest: z
    .number()
    .min(0)
    .max(1e6)
    .default(0)
    .describe('Posts further apart have none between them; 0: any'),
  rollDeg: degrees.default(0).describe('About its own length'),
  size: z.number().min(1e-6).max(1000).default(1).describe('Across its length'),
  gaps: roomyGapsSchema,
  hand: handSchema.describe('Corrections by hand, by the name of the post’s slot that a member leaves from'),
});

export type Spans = z.infer<typeof spansSchema>;
export type SpanEnd = Spans['from'];
