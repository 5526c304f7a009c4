import { z } from 'zod';
import { degrees, metres, seed } from '../../math/measures';
import { pictureRefSchema } from '../meshRef';
import { PLAIN_PROFILES } from './profiles';

/** Surfaces that are made from numbers or from paths, live. */

const size = z.number().min(0.001).max(1e5);
const cells = z.int().min(1).max(1000);
const color = z.string().regex(/^#[0-9a-fA-F]{6}$/);

const grid = { columns: cells.default(24), rows: cells.default(24) };

export const shapeSchema = z.discriminatedUnion('shape', [
  z.object({ shape: z.literal('plane'), width: size.default(12), depth: size.default(12), ...grid }),
  z.object({
    shape: z.literal('hills'),
    width: size.default(24),
    depth: size.default(24),
    columns: cells.default(64),
    rows: cells.default(64),
    height: z.number().min(-1e4).max(1e4).default(1.5).describe('Metres from the middle to about the top'),
    span: size.default(8).describe('Metres from hill to hill'),
    layers: z.int().min(1).max(8).default(3).describe('Each is half as high and twice as fine'),
    seed: seed.default(1),
  }),
  z.object({
    shape: z.literal('picture'),
    picture: pictureRefSchema
      .nullable()
      .default(null)
      .describe('A picture in shades of grey; its bytes are kept beside the document'),
    width: size.default(24),
    depth: size.default(24),
    columns: cells.default(128),
    rows: cells.default(128),
    height: z.number().min(-1e4).max(1e4).default(3).describe('Metres from black to white'),
  }),
  z.object({
    shape: z.literal('turned'),
    path: z.string().describe('Its profile'),
    axis: z
      .tuple([metres, metres, metres])
      .default([0, 0, 0])
      .describe('A place on the upright axis that it is turned about'),
    sweepDeg: z.number().min(1).max(360).default(360),
    ends: z.boolean().default(false).describe('Closed where it ends: a body'),
    columns: cells.default(48),
    rows: cells.default(32),
  }),
  z.object({
    shape: z.literal('tube'),
    path: z.string(),
    radius: size.default(0.25),
    endRadius: size.nullable().default(null).describe('Metres; null: the same all the way'),
    columns: cells.default(16),
    rows: cells.default(96),
  }),
  z.object({
    shape: z.literal('swept'),
    path: z.string().describe('What its profile goes along'),
    profile: z
      .string()
      .nullable()
      .default(null)
      .describe('A path that is its profile, as large as it is drawn; null: a plain one'),
    plain: z.enum(PLAIN_PROFILES).default('round').describe('A plain profile, of the width and height'),
    width: size.default(0.3),
    height: size.default(0.3),
    posture: z
      .enum(['upright', 'slope', 'bank'])
      .default('bank')
      .describe('How it is held: as props on the path are'),
    rollDeg: degrees.default(0).describe('Turned about the path'),
    twistDeg: degrees
      .default(0)
      .describe('Turned on from its beginning to its end; round a loop by whole turns'),
    endFactor: z.number().min(0.001).max(1000).default(1).describe('Its size at its end'),
    ends: z.boolean().default(true).describe('Closed at both ends: a body'),
    rows: cells.default(160),
  }),
  z.object({
    shape: z.literal('strip'),
    path: z.string(),
    width: size.default(0.5),
    rollDeg: degrees.default(0).describe('Turned about the path'),
    columns: cells.default(4),
    rows: cells.default(160),
  }),
  z.object({
    shape: z.literal('loft'),
    paths: z.array(z.string()).max(100).default([]).describe('From one to the next'),
    smooth: z
      .boolean()
      .default(true)
      .describe('A smooth way through them instead of straight from one to the next'),
    ends: z
      .boolean()
      .default(false)
      .describe('Closed at the first and the last path, where these are closed: a body'),
    columns: cells.default(48),
    rows: cells.default(24),
  }),
  z.object({
    shape: z.literal('sphere'),
    radius: size.default(2),
    columns: cells.default(48),
    rows: cells.default(24),
  }),
  z.object({
    shape: z.literal('torus'),
    radius: size.default(2),
    thickness: size.default(0.5).describe('Radius of the ring itself'),
    columns: cells.default(64),
    rows: cells.default(24),
  }),
  z.object({
    shape: z.literal('box'),
    width: size.default(4),
    height: size.default(2),
    depth: size.default(4),
    fillet: z.number().min(0).max(1e5).default(0.2).describe('Radius of its edges'),
    cells: z.int().min(1).max(100).default(6),
  }),
]);

export const madeSchema = z.object({
  source: z.literal('made').describe('Made from numbers or paths, and live'),
  shape: shapeSchema,
  color: color.default('#D8CDB6'),
});

export type SurfaceShape = z.infer<typeof shapeSchema>;
