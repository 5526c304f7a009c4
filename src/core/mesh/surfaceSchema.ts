import { z } from 'zod';
import { degrees, group, id, name, plain, unitScale, vec3 } from '../math/measures';
import { deformerSchema } from './deform/schema';
import { madeSchema } from './make/schema';
import { wears } from './materialSchema';
import { bakedSchema } from './bake/bakeSchema';
import { dustSchema } from './dust/dustSchema';
import { networkSchema } from './network/networkSchema';
import { solidSchema } from './solid/solidSchema';
import { thicknessSchema } from './solid/thicknessSchema';
import { axisSchema, builtSchema, fileSchema } from './meshRef';

/** A surface: a mesh, brought in or made, put into the scene and deformed there. */
export const surfaceSchema = z.object({
  id: id,
  name,
  mesh: z.discriminatedUnion('source', [
    builtSchema,
    fileSchema,
    madeSchema,
    solidSchema,
    dustSchema,
    networkSchema,
  ]),
  unitScale: unitScale.default(1).describe('Metres per unit of the mesh'),
  up: axisSchema.default('+y'),
  position: vec3.describe('x, y, z').default([0, 0, 0]),
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
  thickness: thicknessSchema
    .nullable()
    .default(null)
    .describe('What is drawn and sent out is a closed shell about it; things stand on its outer side'),
  baked: bakedSchema.nullable().default(null).describe('What lies on it as maps in its texture coordinates'),
  locked: z.boolean().default(false).describe('Not moved by the pointer'),
  visible: z.boolean().default(true),
  material: wears,
  group,
});

export type Surface = z.infer<typeof surfaceSchema>;
export type SurfaceMesh = Surface['mesh'];
