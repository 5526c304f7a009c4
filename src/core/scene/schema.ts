import { z } from 'zod';
import { degrees, unitScale, plain } from '../math/measures';
import { ridersSchema } from '../arrange/riders/schema';
import { sheetSchema } from '../arrange/sheet/schema';
import { spansSchema } from '../arrange/spans/schema';
import { runSchema } from '../arrange/run/schema';
import { pegsSchema } from '../arrange/pegs/schema';
import { deformerSchema } from '../mesh/deform/schema';
import { madeSchema } from '../mesh/make/schema';
import { pathSchema, vec3Schema } from './pathSchema';
import { SCENE_VERSION } from './version';

/** The scene document: one Zod schema, from which docs/scene-format.md and the JSON Schema are made. */

const axisSchema = z.enum(['+x', '-x', '+y', '-y', '+z', '-z']);
const idSchema = z.string().min(1).max(64);
const nameSchema = z.string().max(200);

const builtSchema = z.object({
  source: z.literal('built').describe('A mesh that ships with the application'),
  name: z.string().describe('Its name in the built-in library'),
});
const fileSchema = z.object({
  source: z.literal('file').describe('A mesh brought in; its bytes are kept beside the document'),
  hash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .describe('SHA-256 of the file’s bytes'),
  format: z.enum(['glb']),
  fileName: nameSchema,
});
const meshRefSchema = z.discriminatedUnion('source', [builtSchema, fileSchema]);

export const propSchema = z.object({
  id: idSchema,
  name: nameSchema,
  mesh: meshRefSchema,
  unitScale: unitScale.default(1).describe('Metres per unit of the mesh'),
  foot: z
    .object({
      at: z.enum(['base', 'centre', 'origin', 'point']).default('base'),
      point: vec3Schema.optional().describe('For "point": in the mesh’s own units and axes'),
    })
    .default({ at: 'base' })
    .describe('The point that touches'),
  front: axisSchema.default('+z').describe('The mesh’s axis that points forward'),
  up: axisSchema.default('+y').describe('The mesh’s axis that points up'),
  snapPoints: z
    .array(z.object({ name: nameSchema, position: vec3Schema, direction: vec3Schema.optional() }))
    .default([])
    .describe('Named points in the prop’s own space: metres from the foot, X left, Y up, Z front'),
});

export const surfaceSchema = z.object({
  id: idSchema,
  name: nameSchema,
  mesh: z.discriminatedUnion('source', [builtSchema, fileSchema, madeSchema]),
  unitScale: unitScale.default(1).describe('Metres per unit of the mesh'),
  up: axisSchema.default('+y'),
  position: vec3Schema.default([0, 0, 0]),
  turnDeg: degrees.default(0).describe('About Y'),
  tipDeg: degrees.default(0).describe('About its own X, before the turn'),
  rollDeg: degrees.default(0).describe('About its own Z, before the tip'),
  size: z.number().min(0.001).max(1000).default(1),
  normals: z
    .enum(['smooth', 'flat'])
    .default('smooth')
    .describe(
      'Which way props stand between the corners of a face: as the mesh is shaded, or as the face lies',
    ),
  uv: z
    .enum(['own', 'plane', 'cylinder', 'sphere'])
    .default('own')
    .describe('Its own texture coordinates, or some made for it; a clip does not play on those'),
  flipped: z.boolean().default(false).describe('Turned inside out'),
  plays: z
    .object({
      clip: z.string().max(200),
      speed: plain.default(1),
      loop: z.boolean().default(true).describe('Begins again at its end; else it stays there'),
    })
    .nullable()
    .default(null)
    .describe('An animation of a mesh that was brought in, before any deformer'),
  deformers: z.array(deformerSchema).max(50).default([]).describe('Applied one after the other'),
  locked: z.boolean().default(false).describe('Not moved by the pointer'),
  visible: z.boolean().default(true),
});

const arrangementSchema = z.discriminatedUnion('kind', [
  runSchema,
  pegsSchema,
  ridersSchema,
  spansSchema,
  sheetSchema,
]);

/** Ids count up to here; what is counted beyond could not be told apart. */
export const MOST_ID = 4_503_599_627_370_496;

export const sceneSchema = z.object({
  format: z.literal('clothesline'),
  version: z.literal(SCENE_VERSION),
  name: nameSchema,
  units: z.enum(['m', 'cm']).default('m').describe('What the interface shows; the document is in metres'),
  nextId: z.int().min(1).max(MOST_ID).describe('The number of the next id; ids are never used again'),
  props: z.array(propSchema),
  paths: z.array(pathSchema),
  surfaces: z.array(surfaceSchema),
  arrangements: z.array(arrangementSchema),
  view: z
    .object({ eye: vec3Schema, target: vec3Schema })
    .nullable()
    .default(null)
    .describe('Where the scene is seen from'),
  aside: z
    .array(z.object({ where: z.string(), value: z.unknown() }))
    .default([])
    .describe('What was found in a file and could not be understood, kept to go out with it again'),
});

export type Axis = z.infer<typeof axisSchema>;
export type MeshRef = z.infer<typeof meshRefSchema>;
export type Prop = z.infer<typeof propSchema>;
export type {
  Generator,
  GeneratorShape,
  MeshTake,
  Path,
  PathPoint,
  PathSource,
  PointsPath,
} from './pathSchema';
export { hasPoints, pathSchema, pointSchema } from './pathSchema';
export type Surface = z.infer<typeof surfaceSchema>;
export type SurfaceMesh = Surface['mesh'];
export type Arrangement = z.infer<typeof arrangementSchema>;
export type Scene = z.infer<typeof sceneSchema>;
