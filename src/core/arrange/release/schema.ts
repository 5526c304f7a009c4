import { z } from 'zod';
import { metres, share } from '../../math/measures';

const seconds = z.number().min(0).max(3600);

/** Lets placed props go, so that they fall. */
export const releaseSchema = z
  .object({
    on: z.boolean().default(true),
    at: seconds.default(0).describe('The moment from which they are let go, seconds'),
    who: z
      .enum(['all', 'turn', 'chance', 'place', 'region', 'border'])
      .default('all')
      .describe(
        'all: together; turn: one after the other, in slot order; chance: each at its own moment; place: as it passes a place of its path; region: as it leaves the inside of closed paths, seen from above; border: as it comes near a border of a surface',
      ),
    every: seconds.default(0.2).describe('Turn: seconds from one to the next'),
    over: seconds.default(3).describe('Chance: seconds within which all are let go'),
    place: metres.default(0).describe('Place: metres along the path'),
    region: z.array(z.string()).max(100).default([]).describe('Region: ids of closed paths'),
    near: metres.default(0.3).describe('Border: metres from it'),
    fade: seconds.default(0).describe('Seconds over which the hold lets go'),
    onto: z
      .array(z.string())
      .max(1000)
      .default([])
      .describe('Ids of surfaces; none: every one that is shown'),
    against: z
      .array(z.string())
      .max(1000)
      .default([])
      .describe('Ids of arrangements whose props they fall on too; their own fellows they always fall on'),
    gravity: z.number().min(0).max(1000).default(9.81).describe('Metres a second, a second'),
    friction: z.number().min(0).max(10).default(0.5),
    rolling: z
      .number()
      .min(0)
      .max(10)
      .default(0)
      .describe('What rolls is slowed by this share of gravity; 0 rolls on'),
    bounce: share.default(0.1).describe('How much of its speed it keeps where it strikes'),
    drag: z.number().min(0).max(100).default(0.05).describe('How much of its speed the air takes, a second'),
    shapes: z
      .enum(['auto', 'hulls', 'parts'])
      .default('auto')
      .describe('What strikes: convex hulls, several of them for hollow things; auto: as each prop is'),
    then: z
      .enum(['stay', 'ride', 'go'])
      .default('stay')
      .describe('At rest: it stays there, goes with what moves under it, or is gone'),
    floor: metres.default(-20).describe('What falls onto nothing stops at this height, metres'),
    seconds: z
      .number()
      .min(0.1)
      .max(600)
      .default(20)
      .describe('So long they may fall before they are held to rest'),
  })
  .describe('From a moment on its props are bodies that fall');

export type Release = z.infer<typeof releaseSchema>;

/** A release to begin with: unlike old ones its props do not roll on for ever. */
export const newRelease = (): Release => releaseSchema.parse({ rolling: 0.05 });
