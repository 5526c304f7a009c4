import { pinSchema } from '../../mesh/pinSchema';
import { z } from 'zod';
import { metres, length, degrees, factor, share, vec3, quaternion, plain } from '../../math/measures';
import { gapsSchema } from './gapsSchema';
import { orderSchema } from './orderSchema';
import { variationSchema } from './variationSchema';

/** The settings of the steps that the kinds of arrangement share. Every field has a default: a new run is `{}`. */

export * from './gapsSchema';
export * from './groundSchema';
export * from './orderSchema';
export * from './variationSchema';
export { gapsSchema, orderSchema, variationSchema };

/** A curve over what the insets leave of a path: [share of that 0–1, value], in rising order. Empty: the same all along. */
const rampSchema = z
  .array(z.tuple([share, plain]))
  .max(100)
  .default([]);

const rowsSchema = z
  .object({
    count: z.int().min(1).max(120).default(1).describe('Rows; with "both" on each side'),
    distance: metres.default(1).describe('Metres from row to row'),
    stagger: z
      .number()
      .min(0)
      .max(1)
      .default(0)
      .describe('Every second row is moved on by this share of the pitch'),
    side: z
      .enum(['middle', 'left', 'right', 'both', 'alternate'])
      .default('middle')
      .describe('Where the rows lie; "alternate": one row, its slots to the left and right in turn'),
    mirrored: z.boolean().default(false).describe('Rows on the left face the other way across the path'),
  })
  .prefault({});

/** Which divisions of a path. */
export const divisionFields = {
  parts: z.int().min(1).max(100000).default(4).describe('Divide: into so many equal parts'),
  per: z.enum(['whole', 'side', 'quadrant']).default('whole').describe('Divide: what is divided'),
  every: z.int().min(1).max(100000).default(1).describe('Divide: takes every n-th division'),
  from: z.int().min(0).max(100000).default(0).describe('Divide: the first one taken, counted from 0'),
  withEnds: z.boolean().default(true).describe('Divide: both ends (and corners, per side) count too'),
};

export const spacingSchema = z
  .object({
    mode: z.enum(['pitch', 'count', 'touch', 'divide', 'points']).default('pitch'),
    pitch: metres.nullable().default(null).describe('Metres; null: from the props’ own footprint'),
    leftover: z.enum(['even', 'end', 'centre']).default('even'),
    count: z.int().min(1).max(500_000).default(10),
    ends: z.enum(['included', 'half']).default('included').describe('Count: at the ends, or half a pitch in'),
    clearance: metres.default(0).describe('Touch: metres between neighbours; negative overlaps'),
    ...divisionFields,
    at: z.enum(['points', 'corners', 'midpoints']).default('points').describe('Points: at which of them'),
    measured: z
      .enum(['rest', 'moving'])
      .default('rest')
      .describe(
        'On a path that lies on a surface: lengths on the surface at rest, carried by its material, or as it moves',
      ),
    insetStart: metres.default(0).describe('Metres'),
    insetEnd: metres.default(0).describe('Metres'),
    insetStartLengths: z
      .number()
      .min(0)
      .max(1e4)
      .default(0)
      .describe('Added to it: lengths of the longest prop'),
    insetEndLengths: z
      .number()
      .min(0)
      .max(1e4)
      .default(0)
      .describe('Added to it: lengths of the longest prop'),
    looseBy: length.default(0).describe('Metres, plus or minus'),
    minDistance: length.default(0).describe('Metres that looseness leaves between slots'),
    density: rampSchema.describe(
      'Pitch and count: the pitch is multiplied by this, 0.05–20; shares of what the insets leave',
    ),
    rows: rowsSchema,
  })
  .prefault({});

export const targetSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('point'), position: vec3 }),
  z.object({ kind: z.literal('path'), path: z.string().describe('Its nearest place') }),
  z.object({
    kind: z.literal('props'),
    arrangement: z.string(),
    slot: z.string().nullable().default(null).describe('Name of one slot; null: the nearest placed prop'),
  }),
]);

export const facingSchema = z
  .object({
    heading: z.enum(['along', 'across', 'outward', 'compass', 'target']).default('along'),
    compassDeg: degrees.default(0).describe('Clockwise from north (−Z) as seen from above'),
    target: targetSchema.default({ kind: 'point', position: [0, 0, 0] }),
    alternate: z
      .enum(['none', 'turn', 'mirror'])
      .default('none')
      .describe('Every second prop: turned about, or mirrored left to right'),
    posture: z
      .enum(['upright', 'slope', 'bank', 'surface'])
      .default('upright')
      .describe('"surface": the normal of the surface that the path lies on; rows lie along it'),
    bankFrom: z
      .enum(['up', 'right', 'down', 'left'])
      .default('up')
      .describe('Posture "bank": where up is at the beginning of the path, seen along it'),
    lean: share.default(1).describe('Posture "surface": 1 stands square to it, 0 upright'),
    bend: z
      .boolean()
      .default(false)
      .describe('Props are bent along the path instead of standing on it as they are'),
    rigid: z.array(z.string()).default([]).describe('Bent: ids of props that keep their shape all the same'),
    tolerance: z
      .number()
      .min(1e-5)
      .max(1)
      .default(0.002)
      .describe('Bent: how far, in metres, their faces may lie off the true bend'),
    corners: z
      .enum(['round', 'mitre'])
      .default('round')
      .describe('Bent over a corner of the path: as it comes, or cut there and mitred'),
    fill: z
      .boolean()
      .default(false)
      .describe('Bent, end to end, what is left at an end: filled with one that is cut off there'),
    side: metres.default(0).describe('Metres to the right of the way along'),
    sideRamp: rampSchema.describe(
      'Metres to the right, added along the way; shares of what the insets leave',
    ),
    lift: metres.default(0).describe('Metres along the posture’s up'),
    turnDeg: degrees.default(0),
    turnEachDeg: degrees.default(0).describe('Turned so much more with each slot along the path'),
    tipDeg: degrees.default(0),
    rollDeg: degrees.default(0),
    size: factor.default(1),
  })
  .prefault({});

export const handSchema = z
  .record(
    z.string(),
    z.object({
      removed: z.boolean().optional().describe('false: kept in spite of chance and keep-outs'),
      prop: z.string().optional().describe('Another prop in its place'),
      along: metres.optional().describe('Metres moved along the path'),
      side: metres.optional().describe('Metres moved to the right'),
      lift: metres.optional().describe('Metres moved up'),
      turnDeg: degrees.optional(),
      size: factor.optional(),
      bend: z.boolean().optional().describe('Bent or rigid, whatever the recipe says'),
      lock: z
        .object({
          prop: z.string(),
          s: metres,
          position: vec3,
          rotation: quaternion,
          scale: vec3,
          on: z
            .object({ pin: pinSchema, position: vec3, rotation: quaternion })
            .optional()
            .describe(
              'A place of a surface that moves, and how it stands from there: it goes with the material',
            ),
        })
        .optional()
        .describe('Stays just so through every change of the recipe and the path'),
    }),
  )
  .default({})
  .describe('Corrections by hand, by slot name');

export const pulleySchema = z
  .object({
    offset: metres.default(0).describe('Metres that the whole run is moved along'),
    speed: metres.default(0).describe('Metres a second, added with time'),
    duration: z
      .number()
      .min(0.001)
      .max(1e6)
      .nullable()
      .default(null)
      .describe(
        'Seconds from end to end of the path, whatever its length; the speed then only says which way',
      ),
    ends: z
      .enum(['clip', 'wrap', 'turn', 'stay'])
      .default('clip')
      .describe(
        'Open paths: what leaves at one end is gone, or comes in at the other; or all turn back, or stay, once any of them has come to an end',
      ),
  })
  .prefault({});

export type Ramp = z.infer<typeof rampSchema>;
export type Rows = z.infer<typeof rowsSchema>;
export type Spacing = z.infer<typeof spacingSchema>;
export type Target = z.infer<typeof targetSchema>;
export type Facing = z.infer<typeof facingSchema>;
export type Hand = z.infer<typeof handSchema>;
export type HandCorrection = Hand[string];
export type Pulley = z.infer<typeof pulleySchema>;

/** Degrees by which a bank begins rolled, up towards the right of the path. */
export const BANK_DEG = { up: 0, right: 90, down: 180, left: -90 } as const;
