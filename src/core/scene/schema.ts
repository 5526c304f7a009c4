import { z } from 'zod';
import { arrangementSchema } from '../arrange/registry';
import { pathSchema, vec3Schema } from '../curve/schema';
import { lampSchema, MOST_LAMPS } from '../light/lampSchema';
import { lightSchema } from '../light/schema';
import { name } from '../math/measures';
import { maskSchema } from '../mesh/mask/schema';
import { materialSchema } from '../mesh/materialSchema';
import { propSchema } from '../mesh/propSchema';
import { surfaceSchema } from '../mesh/surfaceSchema';
import { bundleSchema } from './bundleSchema';
import { linkSchema } from './linkSchema';
import { timedSchema } from './timedSchema';
import { printSchema } from './printSchema';
import { measureSchema } from './measureSchema';
import { SCENE_VERSION } from './version';
import { viewpointSchema } from './viewpointSchema';

/** The scene document: one Zod schema, from which docs/scene-format.md and the JSON Schema are made. */

/** Ids count up to here; what is counted beyond could not be told apart. */
export const MOST_ID = 4_503_599_627_370_496;

export const sceneSchema = z.object({
  format: z.literal('clothesline'),
  version: z.literal(SCENE_VERSION),
  name,
  units: z.enum(['m', 'cm']).default('m').describe('What the interface shows; the document is in metres'),
  nextId: z.int().min(1).max(MOST_ID).describe('The number of the next id; ids are never used again'),
  props: z.array(propSchema),
  paths: z.array(pathSchema),
  surfaces: z.array(surfaceSchema),
  materials: z.array(materialSchema).max(1000).default([]).describe('Materials made by hand, by their names'),
  arrangements: z.array(arrangementSchema),
  masks: z.array(maskSchema).default([]),
  measures: z.array(measureSchema).max(2000).default([]),
  bundles: z.array(bundleSchema).max(4000).default([]).describe('What places as one prop'),
  timed: z.array(timedSchema).max(2000).default([]).describe('Numbers that change with time'),
  links: z.array(linkSchema).max(2000).default([]).describe('Numbers that follow what other things measure'),
  light: lightSchema.nullable().default(null).describe('How it is lit; null: as the interface is'),
  lamps: z.array(lampSchema).max(MOST_LAMPS).default([]).describe('Lights that were put into it by hand'),
  viewpoints: z.array(viewpointSchema).max(200).default([]).describe('Ways of looking at it that are kept'),
  print: printSchema.prefault({}).describe('How it is printed'),
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

export type Scene = z.infer<typeof sceneSchema>;
