import { z } from 'zod';
import { hangSchema, tieSchema } from './hang/schema';
import { metres, length, degrees, factor, group, share, vec3, plain } from '../math/measures';

/** What a path is made from: its own points, or something that makes it and stays live. */

export const vec3Schema = vec3.describe('x, y, z');
const idSchema = z.string().min(1).max(64);
const measure = z.number().min(0).max(1e6);

export const pointSchema = z.object({
  id: idSchema,
  kind: z.enum(['corner', 'smooth', 'free']),
  position: vec3Schema.describe('Metres'),
  begins: z.boolean().default(false).describe('Begins another stroke of the same path'),
  fillet: length.default(0).describe('Corner: radius in metres, 0 is sharp'),
  tension: share.default(0).describe('Smooth: 0 is loose, 1 is tight'),
  handleIn: vec3Schema.default([0, 0, 0]).describe('Free: from the point, metres'),
  handleOut: vec3Schema.default([0, 0, 0]).describe('Free: from the point, metres'),
  rollDeg: degrees.default(0).describe('Roll of banked props here'),
  size: factor.default(1).describe('Size factor of props here'),
  zone: z.int().min(0).max(999).default(0).describe('Number of the zone from here to the next point'),
  tie: tieSchema.optional().describe('What it is connected to; where it is then is where it was last'),
});

export const generatorSchema = z.discriminatedUnion('shape', [
  z.object({ shape: z.literal('line'), to: vec3Schema.default([6, 0, 0]) }),
  z.object({
    shape: z.literal('polyline'),
    corners: z.array(vec3Schema).min(1).max(2000),
    fillet: measure.default(0),
    closed: z.boolean().default(false),
  }),
  z.object({ shape: z.literal('circle'), radius: measure.default(3) }),
  z.object({
    shape: z.literal('arc'),
    radius: measure.default(3),
    startDeg: degrees.default(0),
    sweepDeg: z.number().min(-360).max(360).default(180),
  }),
  z.object({
    shape: z.literal('rectangle'),
    width: measure.default(6),
    depth: measure.default(4),
    fillet: measure.default(0.5),
  }),
  z.object({
    shape: z.literal('polygon'),
    sides: z.int().min(3).max(2000).default(6),
    radius: measure.default(3),
    fillet: measure.default(0),
  }),
  z.object({
    shape: z.literal('helix'),
    radius: measure.default(2),
    endRadius: measure.nullable().default(null).describe('Metres; null: the same all the way'),
    rise: metres.default(1).describe('Metres a turn'),
    turns: z.number().min(-2000).max(2000).default(3).describe('Negative runs clockwise seen from above'),
  }),
  z.object({
    shape: z.literal('spiral'),
    inner: measure.default(0.5),
    outer: measure.default(4),
    turns: z.number().min(-2000).max(2000).default(3),
  }),
  z.object({
    shape: z.literal('coil'),
    path: z.string().describe('The path that it winds around'),
    radius: measure.default(0.3),
    turns: z.number().min(-5000).max(5000).default(12).describe('Whole where the path is closed'),
    startDeg: degrees.default(0),
  }),
  z.object({
    shape: z.literal('strand'),
    to: vec3Schema.default([6, 0, 0]).describe('The other end, from the first'),
    by: z.enum(['slack', 'length', 'sag']).default('slack'),
    slack: z
      .number()
      .min(0)
      .max(100)
      .default(0.1)
      .describe('Longer than straight by this share; 0 is straight'),
    length: measure.default(7),
    sag: measure.default(1).describe('How far the lowest place hangs below the line between the ends'),
  }),
]);

const sourceSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('points'),
    points: z.array(pointSchema).max(20000),
    on: z
      .string()
      .optional()
      .describe(
        'A surface that it lies on: points are then in that surface’s own frame, as it is without deformers, and go with it',
      ),
    hang: hangSchema
      .optional()
      .describe('Its sides hang between its points instead of what these say of bends'),
  }),
  z.object({
    kind: z.literal('generator'),
    generator: generatorSchema,
    position: vec3Schema.default([0, 0, 0]),
    turnDeg: degrees.default(0).describe('About Y'),
    tipDeg: degrees.default(0).describe('About its own X, before the turn'),
  }),
  z.object({
    kind: z.literal('mesh'),
    surface: z.string(),
    take: z.discriminatedUnion('what', [
      z.object({ what: z.literal('borders') }),
      z.object({
        what: z.literal('edges'),
        angleDeg: z.number().min(0).max(180).default(40).describe('Edges where the faces turn by more'),
      }),
      z.object({
        what: z.literal('loop'),
        at: vec3Schema.describe('A place on the picked edge, in the mesh’s own space'),
      }),
      z.object({
        what: z.literal('iso'),
        along: z.enum(['u', 'v']).describe('The coordinate that stays the same'),
        from: plain.default(0.5),
        to: plain.default(0.5),
        count: z.int().min(1).max(1000).default(1),
      }),
    ]),
    smooth: z
      .boolean()
      .default(false)
      .describe('Smooth through the mesh’s points instead of corner to corner'),
    lift: metres.default(0).describe('Metres up'),
  }),
  z.object({
    kind: z.literal('sheet'),
    sheet: z.string().describe('The sheet whose lines these are, laid on its surface'),
    curve: z.string().nullable().default(null).describe('One of its lines; null: all of them'),
  }),
  z.object({
    kind: z.literal('lines'),
    of: z.string().describe('The strands whose lines these are'),
  }),
  z.object({
    kind: z.literal('offset'),
    path: z.string(),
    distance: metres.default(1).describe('Metres to the right of the way along; negative is left'),
    lift: metres.default(0).describe('Metres up'),
    plane: z
      .enum(['ground', 'x', 'z'])
      .default('ground')
      .describe('The plane that it stays in: level, or upright across X or Z'),
  }),
]);

export const pathSchema = z.object({
  id: idSchema,
  name: z.string().max(200),
  source: sourceSchema,
  closed: z.boolean().default(false).describe('For points: every stroke is a loop'),
  visible: z.boolean().default(true),
  group,
});

export type PathPoint = z.infer<typeof pointSchema>;
export type PathSource = z.infer<typeof sourceSchema>;
export type Generator = z.infer<typeof generatorSchema>;
export type GeneratorShape = Generator['shape'];
export type MeshTake = Extract<PathSource, { kind: 'mesh' }>['take'];
export type Path = z.infer<typeof pathSchema>;
/** A path that has its own points. */
export type PointsPath = Path & { source: Extract<PathSource, { kind: 'points' }> };
/** Whether a path has points of its own, to be moved one by one. */
export const hasPoints = (path: Path | undefined): path is PointsPath => path?.source.kind === 'points';
/** Whether a path lies on the material of a surface, and goes with it. */
export const isCarried = (path: Path | undefined): boolean =>
  path !== undefined &&
  (isLaid(path.source) || path.source.kind === 'mesh' || (hasPoints(path) && path.source.on !== undefined));
/** Whether a path is made from lines that an arrangement lays. */
export const isLaid = (source: PathSource): source is Extract<PathSource, { kind: 'sheet' }> =>
  source.kind === 'sheet';
