import { z } from 'zod';
import { surroundSchema } from './panoramaSchema';

/** The light of a scene: its sun, its sky, and how bright a picture of it is. */

const color = z.string().regex(/^#[0-9a-fA-F]{6}$/);

const sunSchema = z.object({
  by: z
    .enum(['angles', 'hour'])
    .default('angles')
    .describe('Where it stands: by compass and height, or by the hour of a day at a latitude'),
  compassDeg: z
    .number()
    .min(-3600)
    .max(3600)
    .default(291)
    .describe('Clockwise from north (−Z), seen from above'),
  heightDeg: z.number().min(-90).max(90).default(52).describe('Over the horizon; below it gives no light'),
  latitudeDeg: z.number().min(-90).max(90).default(54),
  day: z.number().min(1).max(366).default(172).describe('Of the year; 172 is midsummer in the north'),
  hour: z.number().min(0).max(24).default(15).describe('Of the sun: at 12 it is highest'),
  warmth: z.number().min(1667).max(25000).default(5500).describe('Kelvin: low is warm, high is cold'),
  strength: z.number().min(0).max(1e9).default(1).describe('1 is a clear day'),
  softDeg: z
    .number()
    .min(0)
    .max(60)
    .default(2)
    .describe('How wide its disc is: wider ones throw softer shadows'),
});

const skySchema = z.object({
  brightness: z.number().min(0).max(1e9).default(1).describe('How much light it gives; 1 is a clear day'),
  overhead: color.default('#a9c6d6'),
  horizon: color.default('#eee9df'),
  ground: color.default('#c9b79a').describe('What the ground throws back'),
});

export const lightSchema = z.object({
  sun: sunSchema.prefault({}),
  sky: skySchema.prefault({}),
  surround: surroundSchema.prefault({}),
  halo: z
    .number()
    .min(0)
    .max(10)
    .default(0)
    .describe('How much of what is brighter than white spreads around it; 0: nothing'),
  haloReach: z.number().min(0).max(1).default(0.5).describe('How far it spreads: 0 close, 1 wide'),
  metered: z
    .boolean()
    .default(false)
    .describe('Whether the exposure is measured from the picture; `exposure` is then on top of that'),
  exposure: z
    .number()
    .min(0.001)
    .max(1000)
    .default(1)
    .describe('How bright a picture is: twice is one stop more'),
});

export type Light = z.infer<typeof lightSchema>;
export type Sun = Light['sun'];

/** What stands for the light where nodes are named: there is one of it. */
export const LIGHT_NODE = 'light';
