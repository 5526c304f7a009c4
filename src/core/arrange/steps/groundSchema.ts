import { z } from 'zod';
import { metres, share, vec3 } from '../../math/measures';

/** How an arrangement stands on surfaces. */
export const groundSchema = z
  .object({
    mode: z
      .enum(['none', 'land', 'hug'])
      .default('none')
      .describe('land: along a direction onto the surface; hug: to its nearest place'),
    surfaces: z.array(z.string()).default([]).describe('Ids; none: every surface that is shown'),
    direction: z
      .enum(['down', 'path', 'prop', 'typed'])
      .default('down')
      .describe('Land: down, against the path’s up, against the prop’s own up, or as typed'),
    typed: vec3.default([0, -1, 0]),
    above: z
      .number()
      .min(0)
      .max(1e5)
      .default(1)
      .describe('Land: metres above its place from where ground is looked for; what is higher lies over it'),
    stack: z
      .boolean()
      .default(false)
      .describe('Land down or as typed: in slot order, onto those that have landed before'),
    contact: z
      .enum(['foot', 'lowest', 'footprint'])
      .default('foot')
      .describe(
        'What touches: the foot; whatever of the prop is met first; or that, tilted (by its lean) to where it rests',
      ),
    lean: share.default(0).describe('0 stays as it stood, 1 stands square to the ground'),
    leanMaxDeg: z.number().min(0).max(180).default(180).describe('Never leans further'),
    sink: z.tuple([metres, metres]).default([0, 0]).describe('Metres into the ground, drawn for each'),
    missed: z
      .enum(['keep', 'floor', 'leave-out'])
      .default('keep')
      .describe('Where there is no ground: stays, stands on the floor height, or is left out'),
    floor: metres.default(0).describe('Metres'),
  })
  .prefault({});

export type Ground = z.infer<typeof groundSchema>;
