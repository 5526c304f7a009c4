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
export const pictureRefSchema = z.object({
  hash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .describe('SHA-256 of the file’s bytes'),
  format: z.enum(['png', 'jpeg']).default('png'),
  fileName: z.string().max(200).default('picture.png'),
});
export const meshRefSchema = z.discriminatedUnion('source', [builtSchema, fileSchema, bundleRefSchema]);

export type Axis = z.infer<typeof axisSchema>;
export type PictureRef = z.infer<typeof pictureRefSchema>;
/** Where the mesh of a surface comes from. */
export type OwnMeshRef = z.infer<typeof builtSchema> | z.infer<typeof fileSchema>;
export type MeshRef = z.infer<typeof meshRefSchema>;
