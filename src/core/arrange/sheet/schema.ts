import { z } from 'zod';
import { baseFields } from '../base';
import { degrees, share, vec3, quaternion } from '../../math/measures';
import { slotId } from '../slotId';
import { propsByHand } from '../steps/byHand';
import { areaGapsSchema } from '../steps/gapsSchema';
import { pinSchema } from '../../mesh/pinSchema';
import { handSchema, orderSchema, propsOfOrder, variationSchema } from '../steps/schema';
import { travelSchema } from '../travel/schema';

/** A sheet: a flat layout of props, a grid and free ones, laid over a surface. */

const range = z.tuple([share, share]).default([0, 1]);
const metres = z.number().min(0).max(1e5);

const skipSchema = z
  .object({
    every: z.int().min(1).max(100000).default(2),
    from: z.int().min(1).max(100000).default(1).describe('The first one, counted from 1'),
    keep: z.boolean().default(false).describe('Those are kept and the others skipped'),
  })
  .nullable()
  .default(null);

const gridSchema = z
  .object({
    on: z.boolean().default(true),
    columns: z.int().min(1).max(100000).nullable().default(null).describe('null: from the props’ own width'),
    rows: z.int().min(1).max(100000).nullable().default(null).describe('null: from the props’ own length'),
    follow: z
      .boolean()
      .default(false)
      .describe('Fewer columns where a row is shorter than the longest, each row even'),
    stagger: z
      .enum(['none', 'brick', 'drop', 'hex'])
      .default('none')
      .describe(
        'Every second row moved by half, every second column, or rows as close as six neighbours lie',
      ),
    shift: share.default(0.5).describe('Brick and drop: by this share'),
    left: metres.default(0).describe('Margins, metres'),
    right: metres.default(0),
    bottom: metres.default(0),
    top: metres.default(0),
    order: z.enum(['across', 'up']).default('across').describe('Which way the order of props runs first'),
    skipRows: skipSchema,
    skipColumns: skipSchema,
    skipCells: skipSchema.describe('In the order of the props'),
  })
  .prefault({});

export const freeItemSchema = z.object({
  id: z.string(),
  prop: z.string(),
  at: z.tuple([metres, metres]).describe('Metres on the layout, from its lower left corner'),
  turnDeg: degrees.default(0),
  size: z.number().min(1e-6).max(1000).default(1),
});

export const curveSchema = z.object({
  id: z.string(),
  name: z.string().max(200).default('Line'),
  points: z
    .array(z.tuple([metres, metres]))
    .max(20000)
    .describe('Metres on the layout, or shares of a cell where it is repeated'),
  closed: z.boolean().default(false),
  smooth: z.boolean().default(false),
});

export const sheetSchema = z.object({
  ...baseFields('sheet'),
  surface: z.string(),
  over: z
    .discriminatedUnion('kind', [
      z.object({
        kind: z.literal('uv').describe('By the surface’s own texture coordinates'),
        u: range.describe('The part of them that is covered'),
        v: range,
      }),
      z.object({
        kind: z.literal('frame').describe('From a flat rectangle before the surface'),
        pin: pinSchema.nullable().default(null).describe('Held to the surface, and moved with it'),
        position: vec3.default([0, 0, 0]).describe('Its middle'),
        rotation: quaternion
          .default([0, 0, 0, 1])
          .describe('Unit quaternion x, y, z, w: Y out of it, Z up the sheet'),
        along: z.enum(['normal', 'nearest']).default('normal'),
        reach: z.number().min(0.001).max(1e5).default(5).describe('Metres to both sides'),
      }),
    ])
    .default({ kind: 'uv', u: [0, 1], v: [0, 1] }),
  match: z
    .object({
      guess: z.boolean().default(true).describe('By which way the surface lies; the rest is then not used'),
      flipU: z.boolean().default(false),
      flipV: z.boolean().default(false),
      swap: z.boolean().default(false).describe('Across runs along v, and up along u'),
      otherSide: z.boolean().default(false),
    })
    .prefault({})
    .describe('How the flat sheet’s corner and directions meet the surface’s'),
  fit: z
    .enum(['true', 'stretch'])
    .default('true')
    .describe('In true size by lengths along the surface, or stretched over all of it'),
  width: z.number().min(1e-6).max(1e5).nullable().default(null).describe('Metres; null: the surface’s own'),
  height: z.number().min(1e-6).max(1e5).nullable().default(null),
  from: z
    .enum(['middle', 'start', 'end'])
    .default('middle')
    .describe('Where rows shorter or longer than the sheet are held'),
  order: orderSchema,
  grid: gridSchema,
  items: z.array(freeItemSchema).max(100000).default([]),
  curves: z.array(curveSchema).max(5000).default([]).describe('A pattern of lines, for paths on the surface'),
  repeat: z.boolean().default(false).describe('The lines are repeated in every cell of the grid'),
  facing: z
    .object({
      bend: z.boolean().default(false).describe('Bent to the surface instead of standing on it as they are'),
      rigid: z
        .array(z.string())
        .default([])
        .describe('Bent: ids of props that keep their shape all the same'),
      tolerance: z.number().min(1e-5).max(1).default(0.002).describe('Metres'),
      lift: metres.default(0),
      turnDeg: degrees.default(0),
      tipDeg: degrees.default(0),
      rollDeg: degrees.default(0),
      size: z.number().min(1e-6).max(1000).default(1),
      relief: z.number().min(-100).max(100).default(1).describe('Heights over the surface, a factor'),
      alternate: z.enum(['none', 'turn', 'mirror']).default('none'),
    })
    .prefault({}),
  variation: variationSchema,
  gaps: areaGapsSchema,
  hand: handSchema,
  travel: travelSchema.optional(),
});

export type Sheet = z.infer<typeof sheetSchema>;
export type SheetGrid = Sheet['grid'];
export type SheetMatch = Sheet['match'];
export type FreeItem = z.infer<typeof freeItemSchema>;
export type SheetCurve = z.infer<typeof curveSchema>;
export type Skip = SheetGrid['skipRows'];

/** Free items are on a stroke of their own: "k1.7". */
const FREE = 1;

/** The slot of a free item, from its id ("item7"). */
export const itemSlot = (id: string): number => slotId(Number(/(\d+)$/.exec(id)?.[1] ?? 0), 0, 0, FREE);

/** Ids of the props that a sheet may place, in order of first use. */
export function propsOf(sheet: Sheet): string[] {
  return [
    ...new Set([...propsOfOrder(sheet.order), ...sheet.items.map((i) => i.prop), ...propsByHand(sheet.hand)]),
  ];
}
