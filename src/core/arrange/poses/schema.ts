import { z } from 'zod';
import { length, plain, share } from '../../math/measures';

/** Lets props play the animations that they bring along. */
export const posesSchema = z
  .object({
    on: z.boolean().default(true),
    plays: z
      .enum(['play', 'hold'])
      .default('play')
      .describe('It plays, or each slot holds a pose of its own'),
    clip: z
      .string()
      .max(200)
      .nullable()
      .default(null)
      .describe('Which animation; null, or where a prop has none of that name: its first one'),
    begin: z
      .enum(['together', 'chance', 'turn'])
      .default('chance')
      .describe('Where in it each slot begins: all alike, by chance, or one after the other in slot order'),
    every: z.number().min(-3600).max(3600).default(0.1).describe('Turn: seconds from one to the next'),
    pace: z
      .tuple([plain, plain])
      .default([1, 1])
      .describe('How fast each plays, as a share of the animation’s own speed; negative runs backwards'),
    stride: length
      .nullable()
      .default(null)
      .describe(
        'Metres along the path for once through it, so that feet stand where they tread; null: by time',
      ),
    hold: z
      .tuple([share, share])
      .default([0, 1])
      .describe('Hold: the stretch of it that poses are taken from'),
    steps: z
      .int()
      .min(1)
      .max(240)
      .default(16)
      .describe('So many poses of it are made, and shared by all slots'),
  })
  .describe('Its props play their own animations, each slot from a beginning of its own');

export type Poses = z.infer<typeof posesSchema>;

/** Poses with everything at its default. */
export const newPoses = (): Poses => posesSchema.parse({});

/** Whether they go on with time by themselves. */
export const posesPlay = ({ on, plays, stride }: Poses): boolean => on && plays === 'play' && stride === null;
