import type { MaskLayerKind } from '@/core/mesh/mask/schema';

/** What the beginning and the end of each sort of layer are called, and how they are typed. */
export interface EndFields {
  dimension?: 'length' | 'angle' | 'percent';
  step: number;
  min?: number;
  max?: number;
  suffix?: string;
  what: string;
  /** At which each begins anew. */
  reset: [number, number];
}

export const ENDS: Record<MaskLayerKind, EndFields> = {
  slope: {
    dimension: 'angle',
    suffix: '°',
    step: 1,
    min: 0,
    max: 180,
    what: 'Degrees from level',
    reset: [30, 45],
  },
  height: { dimension: 'length', step: 0.1, what: 'Height above the ground of the scene', reset: [0, 10] },
  facing: {
    dimension: 'angle',
    suffix: '°',
    step: 1,
    min: 0,
    max: 180,
    what: 'Degrees from the direction',
    reset: [90, 0],
  },
  curvature: { step: 0.1, what: 'Bend, 1 / m: hollows below 0, ridges above', reset: [-1, 1] },
  noise: {
    dimension: 'percent',
    suffix: '%',
    step: 0.01,
    min: 0,
    max: 1,
    what: 'Share of the area',
    reset: [0.4, 0.6],
  },
  picture: {
    dimension: 'percent',
    suffix: '%',
    step: 0.01,
    min: 0,
    max: 1,
    what: 'Brightness',
    reset: [0, 1],
  },
  painted: { dimension: 'percent', suffix: '%', step: 0.01, min: 0, max: 1, what: 'Paint', reset: [0, 1] },
  covered: {
    dimension: 'length',
    step: 0.1,
    min: 0,
    what: 'Distance up to what stands above',
    reset: [3, 3],
  },
  outline: { dimension: 'length', step: 0.1, min: 0, what: 'Distance from the outline', reset: [0, 0] },
  water: { dimension: 'length', step: 0.05, what: 'Height above the water', reset: [0, 0.5] },
  inside: { dimension: 'length', step: 0.1, what: 'Distance in from the border', reset: [0, 0] },
  distance: { dimension: 'length', step: 0.1, min: 0, what: 'Distance', reset: [0, 1] },
  u: { step: 0.01, what: 'u', reset: [0, 1] },
  v: { step: 0.01, what: 'v', reset: [0, 1] },
};
