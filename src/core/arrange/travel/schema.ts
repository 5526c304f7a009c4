import { z } from 'zod';
import { degrees, metres, vec3 } from '../../math/measures';

/** How far something has gone, and how fast it goes on with time. */
const wayOf = (what: string) =>
  z
    .object({
      by: metres.default(0).describe(`Metres ${what}`),
      speed: metres.default(0).describe('Metres a second, added with time'),
    })
    .prefault({});

/** Moves a whole arrangement. */
export const travelSchema = z
  .object({
    on: z.boolean().default(true),
    way: z
      .enum(['over', 'along', 'turn'])
      .default('over')
      .describe(
        'over: in u and v of a surface; along: as a path runs, each beside it as it is; turn: about an axis',
      ),
    surface: z
      .string()
      .nullable()
      .default(null)
      .describe('Id of the surface that it goes over; along and turn: that it is kept on, null for none'),
    u: wayOf('along u, in the mean of the surface at rest'),
    v: wayOf('along v, in the mean of the surface at rest'),
    path: z.string().nullable().default(null).describe('Along: id of the path'),
    along: wayOf('along the path'),
    posture: z
      .enum(['upright', 'slope', 'bank'])
      .default('upright')
      .describe('Along: how it is turned with the path'),
    turn: z
      .object({
        byDeg: degrees.default(0),
        speed: degrees.default(0).describe('Degrees a second, added with time'),
      })
      .prefault({}),
    centre: vec3.default([0, 0, 0]).describe('Turn: a point of the axis'),
    axis: z.enum(['x', 'y', 'z']).default('y').describe('Turn: the direction of the axis'),
    border: z
      .enum(['stop', 'back', 'around', 'leave'])
      .default('stop')
      .describe(
        'Where what it goes over ends: all stop, or turn back, as soon as one of them has come to it; each comes in at the other side; or is gone',
      ),
    steers: z.boolean().default(false).describe('Fronts point the way that they go'),
  })
  .describe('The whole arrangement moves, by hand or at a speed');

export type Travel = z.infer<typeof travelSchema>;

/** A travel with everything at its default. */
export const newTravel = (): Travel => travelSchema.parse({});

/** Whether it moves while the time runs. */
export const travelMoves = ({ on, way, u, v, along, turn }: Travel): boolean =>
  on && (way === 'over' ? u.speed !== 0 || v.speed !== 0 : (way === 'along' ? along : turn).speed !== 0);
