import { z } from 'zod';
import { degrees, id, length, name, vec3 } from '../math/measures';

/** Lights that are put into a scene by hand, the glow that a prop has of its own, and what they have in common. */

/** Full strength is that of a clear day’s sun, for what stands a metre before it. */
const strength = z.number().min(0).max(1e9).meta({ measure: 'percent' });

export const glowSchema = z.object({
  color: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .default('#ffb765'),
  strength: strength
    .default(0.25)
    .describe('1: what stands a metre off is as bright by it as by a clear day’s sun'),
});

/** So many lights are put into a scene by hand; props that glow are not counted. */
export const MOST_LAMPS = 8;

export const lampSchema = z.object({
  id,
  name,
  on: z.boolean().default(true),
  kind: z
    .enum(['point', 'area', 'spot'])
    .default('point')
    .describe('To all sides; a disc that shines to its front; or a cone'),
  at: vec3.describe('x, y, z: its middle'),
  aim: vec3.default([0, 0, 0]).describe('x, y, z: where an area or a spot is turned to'),
  aimedAt: id
    .nullable()
    .default(null)
    .describe('The path, surface or arrangement whose middle it is turned to instead, wherever that goes'),
  strength: strength
    .default(1)
    .describe('1: what stands a metre before it is as bright by it as by a clear day’s sun'),
  warmth: z.number().min(1667).max(25000).default(3200).describe('Kelvin: low is warm, high is cold'),
  size: length.default(0.2).describe('Metres from side to side: larger ones throw softer shadows'),
  spreadDeg: degrees.min(1).max(160).default(50).describe('How wide the cone of a spot is'),
  seen: z.boolean().default(false).describe('Whether pictures show the light itself'),
});

export type Glow = z.infer<typeof glowSchema>;
export type Lamp = z.infer<typeof lampSchema>;
