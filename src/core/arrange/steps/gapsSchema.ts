import { z } from 'zod';
import { length, metres, share } from '../../math/measures';

/** Slots left empty, and why. */

const keepOutBase = { id: z.string(), name: z.string().max(200).default('Keep-out') };

export const keepOutSchema = z.discriminatedUnion('kind', [
  z.object({
    ...keepOutBase,
    kind: z.literal('range'),
    part: z.int().min(0).default(0).describe('Which of the run’s paths'),
    stroke: z.int().min(0).default(0).describe('Which stroke of that path'),
    from: metres.describe('Metres along the path'),
    to: metres.describe('Metres along the path'),
  }),
  z.object({
    ...keepOutBase,
    kind: z.literal('region'),
    path: z.string().describe('A closed path, as seen from above'),
    where: z.enum(['inside', 'outside']).default('inside'),
  }),
  z.object({
    ...keepOutBase,
    kind: z.literal('near'),
    of: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('path'), id: z.string() }),
      z.object({ kind: z.literal('arrangement'), id: z.string() }),
    ]),
    distance: length.default(1).describe('Metres from the path, or from the foot of a placed prop'),
  }),
]);

export const gapsSchema = z
  .object({
    chance: share.default(0),
    longest: z
      .int()
      .min(1)
      .max(1000)
      .nullable()
      .default(null)
      .describe('The most gaps by chance in a row; null: no limit'),
    keepOuts: z.array(keepOutSchema).max(1000).default([]),
    taken: z
      .object({
        share: share.default(0),
        from: z.enum(['start', 'end', 'random']).default('start'),
      })
      .prefault({})
      .describe('As if a few were taken: a share of the slots'),
    after: z.enum(['hole', 'close']).default('hole').describe('The rest stay put, or move along to close up'),
    collide: z
      .enum(['ignore', 'leave-out'])
      .default('ignore')
      .describe('Props whose boxes reach into one before them: leave out the later'),
  })
  .prefault({});

export type KeepOut = z.infer<typeof keepOutSchema>;
export type RangeKeepOut = Extract<KeepOut, { kind: 'range' }>;
export type Gaps = z.infer<typeof gapsSchema>;
