import { z } from 'zod';
import { degrees, share, seed, vec3 } from '../../math/measures';

/** What makes cloth of a surface. Lengths are metres in the scene, whatever size the surface is drawn at. */

export const clothFields = {
  sides: z
    .array(z.enum(['u0', 'u1', 'v0', 'v1']))
    .default(['v0'])
    .describe('Sides that are held, by the texture coordinate that is least (0) or greatest (1) along them'),
  cornersOnly: z.boolean().default(false).describe('Of these sides only the ends are held'),
  holds: z
    .array(vec3)
    .max(2000)
    .default([])
    .describe('Places that are held too: in the surface’s own frame, at rest; the nearest vertex of each'),
  line: z
    .string()
    .nullable()
    .default(null)
    .describe('A path along which the first held side hangs, from end to end; null: where it lies at rest'),
  gravity: z.number().min(-100).max(100).default(9.81).describe('Metres a second², down'),
  wind: z.number().min(0).max(200).default(6).describe('Metres a second'),
  windDeg: degrees.default(0).describe('Where it blows, clockwise from north (−Z) as seen from above'),
  gusts: z.number().min(0).max(2).default(0.5).describe('Share of the wind by which it comes and goes'),
  weight: z.number().min(0.01).max(100).default(0.35).describe('Kilograms a square metre'),
  stiffness: share.default(0.2).describe('Against folding: 0 silk, 1 board'),
  give: share.default(0).describe('How far it stretches: 0 not at all'),
  drag: z.number().min(0).max(20).default(0.6).describe('How fast its motion dies down, a second'),
  collider: z
    .string()
    .nullable()
    .default(null)
    .describe('A surface that it falls on, as that stands at time 0'),
  thickness: z.number().min(0).max(10).default(0.01).describe('Metres that it stays off the collider'),
  itself: z.boolean().default(false).describe('It does not go through itself'),
  apart: z.number().min(0.0001).max(10).default(0.03).describe('Metres that it stays off itself'),
  settled: z.boolean().default(false).describe('At all times it is as it is at the end of its seconds'),
  seconds: z
    .number()
    .min(0.1)
    .max(60)
    .default(10)
    .describe('Simulated for so long from time 0; then it stays'),
  seed: seed.default(1),
};
