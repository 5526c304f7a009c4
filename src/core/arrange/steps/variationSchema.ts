import { z } from 'zod';
import { degrees, factor, length, metres, share } from '../../math/measures';

/** Random values. Each channel is drawn by itself: changing one leaves the others as they are. */

const shifts = z.tuple([metres, metres]).describe('[low, high], metres');
const turns = z.tuple([degrees, degrees]).describe('[low, high], degrees');
const sizes = z.tuple([factor, factor]).describe('[low, high], a factor');
const step = length.default(0).describe('0: continuous');
const spread = z.enum(['uniform', 'bell', 'extremes']).default('uniform');

export const CHANNELS = [
  'along',
  'side',
  'lift',
  'turnDeg',
  'tipDeg',
  'rollDeg',
  'size',
  'sizeX',
  'sizeY',
  'sizeZ',
] as const;
export type Channel = (typeof CHANNELS)[number];

const ranges = {
  along: shifts.default([0, 0]),
  side: shifts.default([0, 0]),
  lift: shifts.default([0, 0]),
  turnDeg: turns.default([0, 0]),
  tipDeg: turns.default([0, 0]),
  rollDeg: turns.default([0, 0]),
  size: sizes.default([1, 1]),
  sizeX: sizes.default([1, 1]),
  sizeY: sizes.default([1, 1]),
  sizeZ: sizes.default([1, 1]),
};

export const variationSchema = z
  .object({
    ...ranges,
    alongStep: step,
    sideStep: step,
    liftStep: step,
    turnStepDeg: step,
    tipStepDeg: step,
    rollStepDeg: step,
    sizeStep: step,
    spread: z
      .object({
        along: spread,
        side: spread,
        lift: spread,
        turnDeg: spread,
        tipDeg: spread,
        rollDeg: spread,
        size: spread,
        sizeX: spread,
        sizeY: spread,
        sizeZ: spread,
      })
      .prefault({})
      .describe('How values lie in their range: evenly, mostly in the middle, or mostly at its ends'),
    waverSide: length
      .default(0)
      .describe('Metres to either side by which what stands on a path wavers along it'),
    waverLift: length.default(0).describe('Metres up and down'),
    waverTurnDeg: z.number().min(0).max(180).default(0).describe('Degrees about up, either way'),
    waverLength: z.number().min(0.001).max(1e5).default(2).describe('Metres from one swing to the next'),
    waverRows: z
      .enum(['together', 'each'])
      .default('together')
      .describe('Rows waver together and keep their distance, or each by itself'),
    mirror: share.default(0).describe('Share of the props that are mirrored left to right'),
    tint: z
      .object({
        colors: z
          .array(z.string().regex(/^#[0-9a-fA-F]{6}$/))
          .max(50)
          .default([]),
        strength: z.tuple([share, share]).default([0.3, 0.3]),
      })
      .prefault({})
      .describe('A colour of these, drawn for each prop, laid over its own by the strength'),
    mask: z
      .string()
      .nullable()
      .default(null)
      .describe('A mask: how much of all ranges counts at a place; null: all of them'),
    sizeMask: z
      .string()
      .nullable()
      .default(null)
      .describe('A mask that sizes what stands at a place: whole where it is 1'),
    sizeLeast: factor.default(0.2).describe('The factor of size where that mask is 0'),
    perProp: z
      .record(
        z.string(),
        z.object({
          along: shifts.optional(),
          side: shifts.optional(),
          lift: shifts.optional(),
          turnDeg: turns.optional(),
          tipDeg: turns.optional(),
          rollDeg: turns.optional(),
          size: sizes.optional(),
          sizeX: sizes.optional(),
          sizeY: sizes.optional(),
          sizeZ: sizes.optional(),
        }),
      )
      .default({})
      .describe('Ranges of their own for some props, by id'),
  })
  .prefault({});

export type Variation = z.infer<typeof variationSchema>;
export type Spread = z.infer<typeof spread>;

/** The name of the step of a channel; the axes of size have none. */
export const STEP_OF: Partial<Record<Channel, keyof Variation>> = {
  along: 'alongStep',
  side: 'sideStep',
  lift: 'liftStep',
  turnDeg: 'turnStepDeg',
  tipDeg: 'tipStepDeg',
  rollDeg: 'rollStepDeg',
  size: 'sizeStep',
};

/** What a channel is when nothing varies. */
export const restOf = (channel: Channel): number => (channel.startsWith('size') ? 1 : 0);
