import { z } from 'zod';
import { group, id, name, seed } from '../math/measures';
import { posesSchema } from './poses/schema';
import { releaseSchema } from './release/schema';
import { withinSchema } from './steps/withinSchema';

/** The dyes of threads, in the order in which new arrangements take them. */
export const THREADS = ['madder', 'woad', 'weld', 'moss', 'plum'] as const;
export type Thread = (typeof THREADS)[number];
/** A setting that a recipe shows on top. */
export type OnTop = NonNullable<z.infer<typeof onTopSchema>>[number];

/** Stands for an arrangement itself where it says what it may reach into: a copy means its own fellows. */
export const OWN = 'own';

/** Settings that a recipe shows above all others, each by a name of one's own. */
const onTopSchema = z
  .array(z.object({ field: z.array(z.string().max(64)).min(1).max(8), name }))
  .max(40)
  .optional()
  .describe('Numbers and ranges of its settings that are shown on top, by names of one’s own');

/** Findings that are as somebody wants them. */
const asWantedSchema = z
  .array(
    z.object({
      finding: z.string().max(40),
      about: z.string().max(64).default('').describe('Id of what it is about beside this arrangement'),
      why: z.string().max(500).default(''),
    }),
  )
  .max(1000)
  .optional()
  .describe('Findings that are as they are wanted, with the reason: no check tells of them');

/** The fields that arrangements of every kind begin with. */
export const baseFields = <K extends string>(kind: K) => ({
  id: z.string(),
  kind: z.literal(kind),
  name,
  thread: z.enum(THREADS).describe('Its dye colour in the interface'),
  visible: z.boolean().default(true),
  group,
  shownAs: z
    .enum(['boxes', 'points'])
    .optional()
    .describe('Drawn as the boxes of its props, or as points; absent: as they are'),
  material: id
    .optional()
    .describe('Of a material made by hand that all that it places wears; absent: what each prop wears'),
  recipe: id
    .optional()
    .describe('Those of its kind with the same one share all settings but their places, seed and hand'),
  onTop: onTopSchema,
  within: withinSchema,
  release: releaseSchema.optional(),
  poses: posesSchema.optional(),
  asWanted: asWantedSchema,
  seed: seed.default(1),
  meant: z
    .array(z.string().max(200))
    .max(1000)
    .default([])
    .describe(
      `Ids of arrangements and surfaces that it may reach into, “${OWN}” for its fellows: no check minds`,
    ),
});

/** Those that are part of a recipe all the same. */
const SHARED = new Set(['onTop', 'release', 'poses', 'material']);

/** Those of them that are no part of a recipe, by their names. */
export const OWN_FIELDS: readonly string[] = Object.keys(baseFields('')).filter((f) => !SHARED.has(f));
