import { z } from 'zod';
import { share } from '../../math/measures';

/** What lets a swept tube sag. Lengths are metres in the scene, whatever size the surface is drawn at. */
export const sagFields = {
  holdStart: z.boolean().default(false).describe('Its beginning stays where it is'),
  holdEnd: z.boolean().default(false).describe('Its end stays where it is'),
  onto: z.array(z.string()).max(20).default([]).describe('Surfaces that it comes to lie on'),
  soft: z
    .number()
    .min(0)
    .max(0.7)
    .default(0.25)
    .describe('Share of its radius by which its own weight flattens it where it lies; its volume stays'),
  sticks: z
    .boolean()
    .default(false)
    .describe('Where it has touched it stays; else it slides by its friction'),
  friction: z
    .number()
    .min(0)
    .max(10)
    .default(0.5)
    .describe('Coulomb’s: the tangent of the slope that it just stays on'),
  itself: z.boolean().default(true).describe('It lies on itself'),
  stiffness: share.default(0.1).describe('Against bending: 0 cream, 1 wire'),
  gravity: z.number().min(-100).max(100).default(9.81).describe('Metres a second², down'),
  drag: z.number().min(0).max(50).default(4).describe('How fast its motion dies down, a second'),
  settled: z.boolean().default(false).describe('At all times it is as it is at the end of its seconds'),
  seconds: z
    .number()
    .min(0.1)
    .max(60)
    .default(5)
    .describe('Simulated for so long from time 0; then it stays'),
};
