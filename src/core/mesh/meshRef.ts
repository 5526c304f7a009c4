import { z } from 'zod';
import { name } from '../math/measures';

/** Where a mesh comes from, and which way it lies. */

export const axisSchema = z.enum(['+x', '-x', '+y', '-y', '+z', '-z']);

export const builtSchema = z.object({
  source: z.literal('built').describe('A mesh that ships with the application'),
  name: z.string().describe('Its name in the built-in library'),
});
export const fileSchema = z.object({
  source: z.literal('file').describe('A mesh brought in; its bytes are kept beside the document'),
  hash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .describe('SHA-256 of the file’s bytes'),
  format: z.enum(['glb']),
  fileName: name,
});
const bundleRefSchema = z.object({
  source: z.literal('bundle').describe('What a bundle of this scene holds, as one'),
  bundle: z.string(),
});
const lineSchema = z.object({
  source: z.literal('line').describe('What lines are made of, made from numbers and live'),
  strands: z
    .int()
    .min(1)
    .max(24)
    .default(1)
    .describe('Twisted round each other; 1 is a tube with round ends'),
  radius: z.number().min(0.0001).max(100).default(0.02).describe('Metres, of the whole of it'),
  lay: z.number().min(0.001).max(1000).default(0.16).describe('Metres in which the strands go round once'),
  sides: z.int().min(3).max(64).default(8).describe('Of a tube, and of each strand'),
  color: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/)
    .default('#C9AE7B'),
});
export const pictureRefSchema = z.object({
  hash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .describe('SHA-256 of the file’s bytes'),
  format: z.enum(['png', 'jpeg']).default('png'),
  fileName: z.string().max(200).default('picture.png'),
});
const stampSchema = z.object({
  source: z.literal('stamp').describe('Pictures instead of a mesh, drawn into the surface that it lies on'),
  picture: pictureRefSchema
    .nullable()
    .default(null)
    .describe('Its colours, as far as they are opaque; null: it leaves the colours beneath it'),
  relief: pictureRefSchema.nullable().default(null).describe('How it is raised; null: it lies flat'),
  reliefIs: z
    .enum(['height', 'normal'])
    .default('height')
    .describe('"height": brightness, black lies on the surface; "normal": a normal map, green upwards'),
  depth: z.number().min(-10).max(10).default(0.005).describe('Metres from black to white of a height'),
  width: z.number().min(0.0001).max(1000).default(0.1).describe('Metres to the side'),
  length: z.number().min(0.0001).max(1000).default(0.1).describe('Metres along its front'),
  strength: z.number().min(0).max(1).default(1).describe('Of its colours and of how it is raised'),
  layer: z.int().min(-100).max(100).default(0).describe('Stamps of a higher one lie over the others'),
});
export const meshRefSchema = z.discriminatedUnion('source', [
  builtSchema,
  fileSchema,
  bundleRefSchema,
  lineSchema,
  stampSchema,
]);

export type Axis = z.infer<typeof axisSchema>;
export type PictureRef = z.infer<typeof pictureRefSchema>;
/** Where the mesh of a surface comes from. */
export type OwnMeshRef = z.infer<typeof builtSchema> | z.infer<typeof fileSchema>;
/** Whether a mesh is one that ships or was brought in, rather than made here. */
export const isOwnMesh = <M extends { source: string }>(mesh: M): mesh is Extract<M, OwnMeshRef> =>
  mesh.source === 'built' || mesh.source === 'file';
/** The numbers of what lines are made of. */
export type LineMesh = z.infer<typeof lineSchema>;
/** A prop that is drawn into the surface which it lies on. */
export type Stamp = z.infer<typeof stampSchema>;
export type MeshRef = z.infer<typeof meshRefSchema>;
