import { z } from 'zod';
import { degrees, group, id, length, metres, name, seed, share } from '../../math/measures';
import { pictureRefSchema } from '../meshRef';

/** A mask: a named rule that gives every place a number from 0 to 1. It is made of layers. */

const MOST_LAYERS = 50;
/** Strokes in one place, and numbers of one stroke: three a dab. */
export const MOST_STROKES = 2000;
const MOST_STROKE_NUMBERS = 30_000;
/** Faces that one layer measures from. */
export const MOST_FACES = 20_000;

const common = {
  id,
  on: z.boolean().default(true),
  over: z.boolean().default(false).describe('Turned over: 1 becomes 0'),
  ramp: z
    .array(z.tuple([share, share]))
    .max(200)
    .default([])
    .describe(
      'What its share between “from” and “to” becomes, from point to point; empty: that share itself',
    ),
};

/** Where a layer begins and ends to count, in its own measure. The same twice: from there on. */
const between = (measure: z.ZodType<number>, from: number, to: number, what: string) => ({
  from: measure.default(from).describe(`${what} that counts as 0`),
  to: measure.default(to).describe(`${what} that counts as 1`),
});

const angle = z.number().min(0).max(180);

/** Things that may stand over a place, or that it keeps away from. */
const things = {
  surfaces: z.array(z.string()).max(1000).default([]).describe('Ids of surfaces'),
  arrangements: z.array(z.string()).max(1000).default([]).describe('Ids of arrangements'),
};

const pathIds = z.array(z.string()).max(1000).default([]);

/** A line that a brush has gone, and how wide and strong it is there. */
export const brushFields = {
  id,
  radius: z.number().min(1e-4).max(1e5).describe('Metres on the surface at rest'),
  softness: share.default(0.5).describe('The share of the radius over which it fades out'),
  strength: share.default(1),
  dabs: z
    .array(metres)
    .max(MOST_STROKE_NUMBERS)
    .describe('x, y, z one after the other, in the frame of the surface at rest'),
};

export const strokeSchema = z.object({ does: z.enum(['add', 'take', 'smooth']), ...brushFields });

export const layerSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('slope'),
    ...common,
    ...between(angle, 30, 45, 'Degrees from level'),
  }),
  z.object({
    kind: z.literal('height'),
    ...common,
    ...between(metres, 0, 10, 'Metres above the ground of the scene'),
  }),
  z.object({
    kind: z.literal('facing'),
    ...common,
    compassDeg: degrees.default(180).describe('The direction, clockwise from north (−Z) as seen from above'),
    riseDeg: z.number().min(-90).max(90).default(0).describe('The direction, up from level'),
    ...between(angle, 90, 0, 'Degrees between the normal and the direction'),
  }),
  z.object({
    kind: z.literal('curvature'),
    ...common,
    ...between(metres, -1, 1, 'Mean curvature, 1 / m: hollows are negative, ridges positive'),
  }),
  z.object({
    kind: z.literal('noise'),
    ...common,
    seed: seed.default(1),
    span: z.number().min(0.001).max(1e5).default(2).describe('Metres from patch to patch'),
    ...between(share, 0.4, 0.6, 'Share of the area'),
  }),
  z.object({
    kind: z.literal('picture'),
    ...common,
    picture: pictureRefSchema.nullable().default(null),
    channel: z.enum(['grey', 'red', 'green', 'blue', 'alpha']).default('grey'),
    by: z
      .enum(['uv', 'above'])
      .default('uv')
      .describe('Laid by the surface’s texture coordinates, again and again, or let down from above once'),
    frame: z
      .object({
        x: metres.default(0),
        z: metres.default(0),
        width: z.number().min(0.001).max(1e6).default(10),
        depth: z.number().min(0.001).max(1e6).default(10),
        turnDeg: degrees.default(0),
      })
      .prefault({})
      .describe('Where it comes down from above: its middle, and how large; outside it counts as 0'),
    ...between(share, 0, 1, 'Brightness'),
  }),
  z.object({
    kind: z.literal('painted'),
    ...common,
    surface: z.string().nullable().default(null).describe('The surface that it is painted on'),
    base: share.default(0).describe('What it is where nothing is painted'),
    strokes: z.array(strokeSchema).max(MOST_STROKES).default([]),
    ...between(share, 0, 1, 'Paint'),
  }),
  z.object({
    kind: z.literal('covered'),
    ...common,
    ...things,
    ...between(length, 3, 3, 'Metres up to what stands above'),
  }),
  z.object({
    kind: z.literal('outline'),
    ...common,
    ...things,
    ...between(length, 0, 0, 'Metres from the outline as seen from above'),
  }),
  z.object({
    kind: z.literal('water'),
    ...common,
    surface: z.string().nullable().default(null).describe('The surface of the water; null: a level'),
    level: metres.default(0).describe('Metres; where no surface is named'),
    ...between(metres, 0, 0.5, 'Metres above the water'),
  }),
  z.object({
    kind: z.literal('inside'),
    ...common,
    paths: pathIds.describe('Closed paths, as seen from above'),
    ...between(metres, 0, 0, 'Metres in from the border of the paths'),
  }),
  z.object({
    kind: z.literal('distance'),
    ...common,
    of: z
      .enum(['paths', 'border', 'things', 'faces'])
      .default('paths')
      .describe(
        'From paths; from the border of what it is read on; from surfaces and placed props; from faces',
      ),
    measured: z
      .enum(['straight', 'above', 'along'])
      .default('straight')
      .describe('Straight; as seen from above; along the surface'),
    paths: pathIds,
    ...things,
    faces: z
      .array(z.int().min(0).max(4_000_000))
      .max(MOST_FACES)
      .default([])
      .describe('Numbers of faces of what it is read on'),
    ...between(length, 0, 1, 'Metres'),
  }),
  z.object({ kind: z.literal('u'), ...common, ...between(z.number().min(-1e6).max(1e6), 0, 1, 'u') }),
  z.object({ kind: z.literal('v'), ...common, ...between(z.number().min(-1e6).max(1e6), 0, 1, 'v') }),
]);

export const maskSchema = z.object({
  id,
  name,
  combine: z
    .enum(['product', 'largest', 'difference'])
    .default('product')
    .describe('Of its layers: all of them multiplied; the largest; the first less each of the others'),
  layers: z.array(layerSchema).max(MOST_LAYERS).default([]),
  group,
});

export type Mask = z.infer<typeof maskSchema>;
export type MaskLayer = z.infer<typeof layerSchema>;
export type MaskLayerKind = MaskLayer['kind'];
export type LayerOf<K extends MaskLayerKind> = Extract<MaskLayer, { kind: K }>;
export type PaintStroke = z.infer<typeof strokeSchema>;
export type BrushLine = Pick<PaintStroke, 'radius' | 'softness' | 'dabs'>;
