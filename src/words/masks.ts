import type { MaskLayerKind } from '@/core/mesh/mask/schema';

/** Layers whose beginning and end are lengths. */
export const LENGTH_LAYERS: ReadonlySet<MaskLayerKind> = new Set([
  'height',
  'covered',
  'outline',
  'water',
  'inside',
  'distance',
]);

/** What layers of masks are called. */
export const LAYER_NAMES: Record<MaskLayerKind, string> = {
  slope: 'Slope',
  height: 'Height',
  facing: 'Facing',
  curvature: 'Hollows and ridges',
  noise: 'Noise',
  picture: 'Picture',
  painted: 'Painted',
  covered: 'Under cover',
  outline: 'Outline',
  water: 'Water',
  inside: 'Inside paths',
  distance: 'Distance',
  u: 'u',
  v: 'v',
};
