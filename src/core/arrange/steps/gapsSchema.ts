import { z } from 'zod';
import { length, metres, share } from '../../math/measures';

/** Slots left empty, and why. */

const keepOutBase = { id: z.string(), name: z.string().max(200).default('Keep-out') };

const rangeSchema = z.object({
  ...keepOutBase,
  kind: z.literal('range'),
  part: z.int().min(0).default(0).describe('Which of the run’s paths'),
  stroke: z.int().min(0).default(0).describe('Which stroke of that path'),
  from: metres.describe('Metres along the path'),
  to: metres.describe('Metres along the path'),
});
const regionSchema = z.object({
  ...keepOutBase,
  kind: z.literal('region'),
  path: z.string().describe('A closed path, as seen from above'),
  where: z.enum(['inside', 'outside']).default('inside'),
});
const nearSchema = z.object({
  ...keepOutBase,
  kind: z.literal('near'),
  of: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('path'), id: z.string() }),
    z.object({ kind: z.literal('arrangement'), id: z.string() }),
  ]),
  distance: length.default(1).describe('Metres from the path, or from the foot of a placed prop'),
});

const intoSchema = z.object({
  ...keepOutBase,
  kind: z.literal('into'),
  of: z.string().describe('The arrangement whose props stay: what would reach into their boxes is left out'),
});

const maskedSchema = z.object({
  ...keepOutBase,
  kind: z.literal('mask'),
  mask: z.string().describe('What it gives a place is the chance that something stands there'),
});

export const keepOutSchema = z.discriminatedUnion('kind', [
  rangeSchema,
  regionSchema,
  nearSchema,
  intoSchema,
  maskedSchema,
]);

const chance = {
  chance: share.default(0),
  longest: z
    .int()
    .min(1)
    .max(1000)
    .nullable()
    .default(null)
    .describe('The most gaps by chance in a row; null: no limit'),
};
const emptied = {
  taken: z
    .object({
      share: share.default(0),
      from: z.enum(['start', 'end', 'random']).default('start'),
    })
    .prefault({})
    .describe('As if a few were taken: a share of the slots'),
};
const collide = {
  collide: z
    .enum(['ignore', 'leave-out'])
    .default('ignore')
    .describe('Props whose boxes reach into one before them: leave out the later'),
};
const around = {
  keepOuts: z
    .array(z.discriminatedUnion('kind', [regionSchema, nearSchema, intoSchema, maskedSchema]))
    .max(1000)
    .default([]),
};

/** Along a path: stretches of it can be kept free, and the others can close up. */
export const gapsSchema = z
  .object({
    ...chance,
    keepOuts: z.array(keepOutSchema).max(1000).default([]),
    ...emptied,
    after: z.enum(['hole', 'close']).default('hole').describe('The rest stay put, or move along to close up'),
    ...collide,
  })
  .prefault({});

/** Over an area: what is empty leaves a hole. */
export const areaGapsSchema = z.object({ ...chance, ...around, ...emptied, ...collide }).prefault({});

/** Where nothing gives way: members meet each other anyway, and what stands on shelves is given room of its own. */
export const roomyGapsSchema = z.object({ ...chance, ...around, ...emptied }).prefault({});

/** Where chance has its own word for it: the share of leaders that carry one. */
export const leaderGapsSchema = z.object({ ...around, ...emptied, ...collide }).prefault({});

/** Gaps of any kind, what a kind has not at its rest. */
export const wholeGaps = (gaps: Partial<Gaps>): Gaps => ({
  chance: 0,
  longest: null,
  keepOuts: [],
  taken: { share: 0, from: 'start' },
  after: 'hole',
  collide: 'ignore',
  ...gaps,
});

export type KeepOut = z.infer<typeof keepOutSchema>;
export type RangeKeepOut = Extract<KeepOut, { kind: 'range' }>;
export type Gaps = z.infer<typeof gapsSchema>;
