import { z } from 'zod';
import { degrees, factor, length, share } from '../../math/measures';
import { baseFields } from '../base';
import { roomyGapsSchema } from '../steps/gapsSchema';
import { propsByHand } from '../steps/byHand';
import { handSchema, orderSchema, propsOfOrder, variationSchema } from '../steps/schema';

/** Stock: props filling shelves. Facings side by side along a front edge, rows behind each, stacked. */

const levelSchema = z.object({
  height: length
    .nullable()
    .default(null)
    .describe('Metres that are clear over the board; null: up to what is found there'),
  board: length.default(0.03).describe('On a path: how thick the board over it is, metres'),
  goods: z
    .array(z.string())
    .max(500)
    .default([])
    .describe('Ids of the entries of the order that go there; none: all'),
  empty: z.boolean().default(false).describe('Nothing stands there'),
});

const shelfBase = {
  part: z.int().min(0).max(255).describe('The stable number that its slot ids carry'),
  depth: length.nullable().default(null).describe('Metres; null: as deep as the board that is found'),
  levels: z
    .array(levelSchema)
    .max(255)
    .default([])
    .describe('From the lowest up: of a path, one over the other; of a rack, what is said of its boards'),
};

const front = z
  .enum(['+x', '-x', '+z', '-z'])
  .default('+z')
  .describe('The side of its own frame that is the front');

/** Where goods stand: a front edge, or the boards of a rack. */
const shelfSchema = z.discriminatedUnion('from', [
  z.object({
    from: z.literal('path').describe('The front edge of a board: every stroke is one'),
    path: z.string(),
    behind: z
      .enum(['left', 'right'])
      .default('left')
      .describe('On which side of the way along the path the board lies'),
    ...shelfBase,
  }),
  z.object({
    from: z.literal('surface').describe('The boards of a rack that is a surface'),
    surface: z.string(),
    front,
    ...shelfBase,
  }),
  z.object({
    from: z.literal('prop').describe('The boards of a rack that is a placed prop'),
    arrangement: z.string(),
    slot: z.string().describe('Name of its slot'),
    front,
    ...shelfBase,
  }),
]);

const counts = z.tuple([z.int().min(1).max(4095), z.int().min(1).max(4095)]);
const shares = z.tuple([share, share]);
const filled = z.enum(['fit', 'count', 'share']);

export const stockSchema = z.object({
  ...baseFields('stock'),
  shelves: z.array(shelfSchema).max(256).default([]),
  order: orderSchema,
  filling: z
    .object({
      air: length.default(0.01).describe('Metres between facings'),
      airBehind: length.default(0.005).describe('Metres between rows'),
      airAbove: length.default(0.01).describe('Metres that stay free under what is above'),
      setback: length.default(0).describe('Metres from the front edge to the fronts'),
      insetStart: length.default(0).describe('Metres left free at the beginning of each edge'),
      insetEnd: length.default(0).describe('Metres left free at its end'),
      leftover: z
        .enum(['even', 'end', 'centre'])
        .default('even')
        .describe('What is left of an edge: as air between facings, at its end, or at both ends'),
      deepBy: filled
        .default('fit')
        .describe('How many rows a facing has: as many as fit, a number, or a share of what fits'),
      deep: counts.default([1, 3]).describe('Drawn for every facing by itself'),
      deepShare: shares.default([0.5, 1]),
      highBy: filled.default('fit').describe('How high each row is stacked'),
      high: counts.default([1, 2]).describe('Drawn for every row by itself'),
      highShare: shares.default([0.5, 1]),
      align: z
        .enum(['front', 'centre', 'back'])
        .default('front')
        .describe('Where the rows of a facing stand in the depth'),
    })
    .prefault({}),
  stand: z
    .object({
      turnDeg: degrees.default(0).describe('Turned from the prop’s front, which looks out of the shelf'),
      tipDeg: degrees.default(0),
      rollDeg: degrees.default(0),
      size: factor.default(1),
    })
    .prefault({}),
  sold: z
    .object({
      front: shares.default([0, 0]).describe('Share of the rows taken from the front, drawn for each facing'),
      top: shares.default([0, 0]).describe('Share of each stack taken from its top, drawn for each'),
      out: share.default(0).describe('Share of the facings that are sold out'),
      forward: z.boolean().default(false).describe('What is left is pulled to the front'),
    })
    .prefault({}),
  onShelf: z
    .record(
      z.string(),
      z.object({
        stack: z.boolean().optional().describe('false: nothing stands on it'),
        high: z.int().min(1).max(4095).optional().describe('Stacked no higher than this'),
        deep: z.int().min(1).max(4095).optional().describe('No more rows than this'),
        above: length.optional().describe('Metres of air it needs above'),
      }),
    )
    .default({})
    .describe('What a shelf needs to know of some props, by id'),
  byFacing: z
    .record(
      z.string(),
      z.object({
        prop: z.string().optional().describe('Another prop in this facing'),
        sold: z.boolean().optional().describe('Sold out, or never'),
        deep: z.int().min(1).max(4095).optional().describe('So many rows, if they fit'),
        high: z.int().min(1).max(4095).optional().describe('Stacked so high, if it fits'),
      }),
    )
    .default({})
    .describe('What a hand says of whole facings, by name'),
  variation: variationSchema,
  gaps: roomyGapsSchema,
  hand: handSchema,
});

export type Stock = z.infer<typeof stockSchema>;
export type Shelf = z.infer<typeof shelfSchema>;
export type ShelfLevel = Shelf['levels'][number];
export type FacingByHand = Stock['byFacing'][string];

/** Ids of the props that stock may place, in order of first use. */
export const propsOf = ({ order, byFacing, hand }: Pick<Stock, 'order' | 'byFacing' | 'hand'>): string[] => [
  ...new Set([
    ...propsOfOrder(order),
    ...Object.values(byFacing).flatMap((f) => f.prop ?? []),
    ...propsByHand(hand),
  ]),
];
