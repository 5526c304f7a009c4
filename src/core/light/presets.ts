import { lightSchema, type Light } from './schema';

/** Lights to begin with. */
export const LIGHTS = {
  day: lightSchema.parse({}),
  evening: lightSchema.parse({
    sun: { compassDeg: 253, heightDeg: 12, hour: 20, warmth: 2600, strength: 0.75, softDeg: 2 },
    sky: { brightness: 0.7, overhead: '#4c6486', horizon: '#e3a98a', ground: '#7a6a70' },
  }),
  overcast: lightSchema.parse({
    sun: { warmth: 6500, strength: 0.12, softDeg: 45 },
    sky: { brightness: 1.25, overhead: '#c3ccd0', horizon: '#dfe2e0', ground: '#b3aea3' },
  }),
  night: lightSchema.parse({
    sun: { compassDeg: 150, heightDeg: 38, hour: 1, warmth: 9000, strength: 0.22, softDeg: 1 },
    sky: { brightness: 0.16, overhead: '#0d1726', horizon: '#2b3a50', ground: '#2a2d38' },
  }),
} satisfies Record<string, Light>;

export type LightName = keyof typeof LIGHTS;
