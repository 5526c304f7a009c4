import { z } from 'zod';
import { glowSchema } from '../light/lampSchema';
import { group, id, name, unitScale, vec3 } from '../math/measures';
import { wears } from './materialSchema';
import { axisSchema, meshRefSchema } from './meshRef';

/** A prop: a mesh with its foot, its front and its snap points. */
export const propSchema = z.object({
  id: id,
  name,
  mesh: meshRefSchema,
  unitScale: unitScale.default(1).describe('Metres per unit of the mesh'),
  foot: z
    .object({
      at: z.enum(['base', 'centre', 'origin', 'point']).default('base'),
      point: vec3.describe('x, y, z').optional().describe('For "point": in the mesh’s own units and axes'),
    })
    .default({ at: 'base' })
    .describe('The point that touches'),
  front: axisSchema.default('+z').describe('The mesh’s axis that points forward'),
  up: axisSchema.default('+y').describe('The mesh’s axis that points up'),
  snapPoints: z
    .array(
      z.object({ name, position: vec3.describe('x, y, z'), direction: vec3.describe('x, y, z').optional() }),
    )
    .default([])
    .describe('Named points in the prop’s own space: metres from the foot, X left, Y up, Z front'),
  glow: glowSchema.nullable().default(null).describe('Its own light; null: none'),
  material: wears,
  group,
});

export type Prop = z.infer<typeof propSchema>;
