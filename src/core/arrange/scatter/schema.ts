import { z } from 'zod';
import { baseFields } from '../base';
import { degrees, factor, length, metres, share } from '../../math/measures';
import { propsByHand } from '../steps/byHand';
import { areaGapsSchema } from '../steps/gapsSchema';
import { groundSchema } from '../steps/groundSchema';
import { handSchema, targetSchema } from '../steps/schema';
import { travelSchema } from '../travel/schema';
import { variationSchema } from '../steps/variationSchema';
import { weightedSchema } from '../steps/weighted';
import { brushFields, MOST_STROKES } from '../../mesh/mask/schema';
import { MOST_EACH } from '../../mesh/scatter/clumps';

/** A scatter: props over the area of surfaces, over what closed paths enclose, or inside a closed mesh. */

/** The most places of one. */
export const MOST_PLACES = 4_000_000;

const overSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z
      .literal('surfaces')
      .describe('Over the whole area of surfaces, each place going with their material'),
    surfaces: z.array(z.string()).max(4000).default([]),
  }),
  z.object({
    kind: z.literal('paths').describe('Inside closed paths, seen from above'),
    paths: z.array(z.string()).max(4000).default([]),
  }),
  z.object({
    kind: z.literal('volume').describe('Inside a closed surface'),
    surface: z.string(),
    open: z
      .enum(['as-is', 'closed', 'box'])
      .default('as-is')
      .describe('Where the surface is open: as well as it goes, closed by lids over its borders, or its box'),
    shell: length
      .nullable()
      .default(null)
      .describe('Only so near to the surface, metres; null: all of the inside'),
  }),
]);

const spreadSchema = z
  .object({
    how: z
      .enum(['even', 'loose', 'grid', 'clumps'])
      .default('even')
      .describe(
        'As far apart as they fit; by chance; in rows and columns seen from above; several about each place',
      ),
    amount: z
      .enum(['distance', 'number', 'density'])
      .default('distance')
      .describe('What is given: how far they are apart, how many, or how many a square (cubic) metre'),
    distance: z
      .number()
      .min(1e-4)
      .max(1e5)
      .nullable()
      .default(null)
      .describe('Metres; null: from the props’ own footprint'),
    number: z.int().min(0).max(MOST_PLACES).default(200).describe('Clumps: of them'),
    density: z.number().min(0).max(1e6).default(1).describe('A square metre; in a volume a cubic one'),
    rows: z
      .enum(['above', 'uv'])
      .default('above')
      .describe('Grid: in rows seen from above, or along u by the texture coordinates of surfaces'),
    turnDeg: degrees.default(0).describe('Grid: rows turned'),
    stagger: z
      .enum(['none', 'brick', 'six'])
      .default('none')
      .describe('Grid: every second row moved by half'),
    loose: share.default(0).describe('Grid: each moved by chance, up to so much of half the distance'),
    each: z
      .tuple([z.int().min(0).max(MOST_EACH), z.int().min(0).max(MOST_EACH)])
      .default([4, 8])
      .describe('Clumps: how many stand about each place, least and most'),
    wide: length.default(1).describe('Clumps: metres from their middle to the farthest'),
    mask: z
      .string()
      .nullable()
      .default(null)
      .describe('A mask: what it gives a place is the chance that there is one; null: everywhere'),
  })
  .prefault({});

const brushed = { ...brushFields, surface: z.string() };

/** A stroke of the brush over what stands on a surface. */
export const brushedSchema = z.discriminatedUnion('does', [
  z.object({ does: z.literal('comb').describe('Fronts turn the way that the stroke runs'), ...brushed }),
  z.object({ does: z.literal('uncomb').describe('Fronts turn back to their own heading'), ...brushed }),
  z.object({
    does: z.literal('prop').describe('This prop stands there, where a draw is below strength and cover'),
    prop: z.string(),
    ...brushed,
  }),
  z.object({ does: z.literal('unprop').describe('What was drawn stands there again'), ...brushed }),
]);

export const scatterSchema = z.object({
  ...baseFields('scatter'),
  over: overSchema,
  props: weightedSchema,
  spread: spreadSchema,
  stand: z
    .object({
      heading: z
        .enum(['along', 'outward', 'drift', 'compass', 'target'])
        .default('along')
        .describe(
          '“along”: as the area lies, to +Z; away from the middle of all places; drifting, nearly as the neighbours do',
        ),
      driftSpan: z
        .number()
        .min(0.001)
        .max(1e5)
        .default(8)
        .describe('Metres over which a drift turns to another way'),
      compassDeg: degrees.default(0).describe('Clockwise from north (−Z) as seen from above'),
      target: targetSchema.default({ kind: 'point', position: [0, 0, 0] }),
      alternate: z.enum(['none', 'turn', 'mirror']).default('none'),
      lean: share.default(0).describe('0 upright, 1 square to the surface'),
      lift: metres.default(0),
      turnDeg: degrees.default(0),
      tipDeg: degrees.default(0),
      rollDeg: degrees.default(0),
      size: factor.default(1),
    })
    .prefault({}),
  ground: groundSchema,
  variation: variationSchema,
  brushed: z
    .array(brushedSchema)
    .max(MOST_STROKES)
    .default([])
    .describe('Strokes of the brush, one after the other: which way they turn, which prop stands there'),
  gaps: areaGapsSchema,
  hand: handSchema,
  travel: travelSchema.optional(),
});

export type Scatter = z.infer<typeof scatterSchema>;
export type BrushedStroke = z.infer<typeof brushedSchema>;
export type ScatterOver = Scatter['over'];
/** The same as it is given, what is at its default left out. */
export type GivenOver = z.input<typeof overSchema>;
export type ScatterSpread = Scatter['spread'];

/** Ids of the props that a scatter may place, in order of first use. */
export const propsOf = ({ props, brushed: strokes, hand }: Scatter): string[] => [
  ...new Set([
    ...props.map((p) => p.prop),
    ...strokes.flatMap((s) => (s.does === 'prop' ? [s.prop] : [])),
    ...propsByHand(hand),
  ]),
];
