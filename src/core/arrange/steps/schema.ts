import { z } from 'zod';

/** The settings of the steps that the kinds of arrangement share. Every field has a default: a new run is `{}`. */

const range = (unit: string) => z.tuple([z.number(), z.number()]).describe(`[low, high], ${unit}`);

export const orderEntrySchema = z.object({
  id: z.string(),
  item: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('prop'), prop: z.string() }),
    z.object({ kind: z.literal('rest') }),
  ]),
  times: z
    .tuple([z.int().min(0).max(10000), z.int().min(0).max(10000)])
    .default([1, 1])
    .describe('Pattern: how many in a row, drawn from [least, most]'),
  weight: z.number().min(0).default(1).describe('Mix: its share'),
});

export const orderSchema = z
  .object({
    mode: z.enum(['pattern', 'mix']).default('pattern').describe('In turn, or mixed by weight'),
    entries: z.array(orderEntrySchema).max(500).default([]),
  })
  .prefault({});

export const spacingSchema = z
  .object({
    mode: z.enum(['pitch', 'count']).default('pitch'),
    pitch: z.number().nullable().default(null).describe('Metres; null: from the props’ own footprint'),
    leftover: z.enum(['even', 'end', 'centre']).default('even'),
    count: z.int().default(10),
    ends: z.enum(['included', 'half']).default('included').describe('Count: at the ends, or half a pitch in'),
    insetStart: z.number().default(0).describe('Metres'),
    insetEnd: z.number().default(0).describe('Metres'),
    looseBy: z.number().min(0).default(0).describe('Metres, plus or minus'),
    minDistance: z.number().min(0).default(0).describe('Metres that looseness leaves between slots'),
  })
  .prefault({});

export const facingSchema = z
  .object({
    heading: z.enum(['along', 'across', 'outward', 'compass']).default('along'),
    compassDeg: z.number().default(0).describe('Clockwise from north (−Z) as seen from above'),
    posture: z.enum(['upright', 'slope', 'bank']).default('upright'),
    side: z.number().default(0).describe('Metres to the right of the way along'),
    lift: z.number().default(0).describe('Metres along the posture’s up'),
    turnDeg: z.number().default(0),
    tipDeg: z.number().default(0),
    rollDeg: z.number().default(0),
    size: z.number().positive().default(1),
  })
  .prefault({});

export const variationSchema = z
  .object({
    along: range('metres').default([0, 0]),
    side: range('metres').default([0, 0]),
    lift: range('metres').default([0, 0]),
    turnDeg: range('degrees').default([0, 0]),
    turnStepDeg: z.number().min(0).default(0).describe('0: continuous'),
    tipDeg: range('degrees').default([0, 0]),
    tipStepDeg: z.number().min(0).default(0),
    rollDeg: range('degrees').default([0, 0]),
    rollStepDeg: z.number().min(0).default(0),
    size: z
      .tuple([z.number().positive(), z.number().positive()])
      .default([1, 1])
      .describe('[low, high], a factor'),
  })
  .prefault({});

export const keepOutSchema = z.object({
  id: z.string(),
  name: z.string().max(200).default('Keep-out'),
  part: z.int().min(0).default(0).describe('Which of the run’s paths'),
  from: z.number().describe('Metres along the path'),
  to: z.number().describe('Metres along the path'),
});

export const gapsSchema = z
  .object({
    chance: z.number().min(0).max(1).default(0),
    keepOuts: z.array(keepOutSchema).max(1000).default([]),
  })
  .prefault({});

export const handSchema = z
  .record(
    z.string(),
    z.object({ removed: z.boolean().describe('false: kept in spite of chance and keep-outs') }),
  )
  .default({})
  .describe('Corrections by hand, by slot name');

export type OrderEntry = z.infer<typeof orderEntrySchema>;
export type Order = z.infer<typeof orderSchema>;
export type Spacing = z.infer<typeof spacingSchema>;
export type Facing = z.infer<typeof facingSchema>;
export type Variation = z.infer<typeof variationSchema>;
export type KeepOut = z.infer<typeof keepOutSchema>;
export type Gaps = z.infer<typeof gapsSchema>;
export type Hand = z.infer<typeof handSchema>;
