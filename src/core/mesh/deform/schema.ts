import { z } from 'zod';
import { metres, degrees, share, seed, vec3, plain } from '../../math/measures';
import { clothFields } from '../cloth/schema';
import { sagFields } from '../rod/schema';

/** Deformers: what bends a surface, in its own frame (metres, before it is turned and put in its place). */

const axis = z.enum(['x', 'y', 'z']);

const common = {
  id: z.string(),
  on: z.boolean().default(true),
};
const masked = {
  ...common,
  mask: z.string().nullable().default(null).describe('A mask: how much of it counts at a place'),
};
const swaying = {
  ...masked,
  sway: plain.default(0).describe('Share of its amount by which it swings to and fro; 0 is still'),
  period: z.number().min(0.01).max(1e4).default(4).describe('Seconds from swing to swing'),
};

export const deformerSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('bend'),
    ...swaying,
    along: axis.default('y').describe('What runs along this axis is bent'),
    towards: axis.default('z').describe('Into this direction'),
    angleDeg: degrees.default(45).describe('From one end to the other'),
    fixed: share.default(0).describe('The share of its length that stays where it is'),
  }),
  z.object({
    kind: z.literal('twist'),
    ...swaying,
    along: axis.default('y'),
    angleDeg: degrees.default(45).describe('From one end to the other'),
    fixed: share.default(0),
  }),
  z.object({
    kind: z.literal('taper'),
    ...swaying,
    along: axis.default('y'),
    factor: z.number().min(0).max(100).default(0.5).describe('Width at the far end'),
  }),
  z.object({
    kind: z.literal('wave'),
    ...masked,
    height: metres.default(0.2).describe('Metres from the middle to the crest'),
    length: z.number().min(0.001).max(1e5).default(3).describe('Metres from crest to crest'),
    speed: metres.default(1).describe('Metres a second'),
    directionDeg: degrees
      .default(0)
      .describe('Where it runs, in the plane square to its push; 0 is the first axis'),
    push: axis.default('y').describe('The axis along which it pushes'),
    phaseDeg: degrees.default(0),
    pinned: z
      .enum(['nowhere', 'start', 'end', 'both'])
      .default('nowhere')
      .describe('Ends, along the way it runs, that stay still'),
  }),
  z.object({
    kind: z.literal('noise'),
    ...masked,
    height: metres.default(0.3),
    span: z.number().min(0.001).max(1e5).default(2).describe('Metres from bump to bump'),
    speed: metres.default(0).describe('Metres a second that the bumps drift'),
    push: z.enum(['x', 'y', 'z', 'normal']).default('normal'),
    seed: seed.default(1),
  }),
  z.object({
    kind: z.literal('bulge'),
    ...swaying,
    at: vec3.default([0, 0, 0]).describe('Its middle, before any deforming'),
    by: vec3.default([0, 0.5, 0]).describe('How far the middle is moved, metres'),
    radius: z.number().min(0.001).max(1e5).default(1.5).describe('Where it fades to nothing'),
  }),
  z.object({
    kind: z.literal('pulley'),
    ...common,
    way: z.enum(['u', 'v']).default('v').describe('The way round which it closes'),
    offset: metres.default(0).describe('Metres that its material is moved on'),
    speed: metres
      .default(0.5)
      .describe('Metres a second, added with time; a cloth begins where it is at the beginning'),
  }),
  z.object({ kind: z.literal('cloth'), ...common, ...clothFields }),
  z.object({ kind: z.literal('sag'), ...common, ...sagFields }),
]);

export type Deformer = z.infer<typeof deformerSchema>;
export type DeformerKind = Deformer['kind'];
