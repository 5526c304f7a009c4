import type { LayerOf, Mask, MaskLayer } from './schema';

/** What a mask waits for, and what it reads. */

/** Ids of the nodes that a mask's layers name. */
export function maskNeeds({ layers }: Mask): { paths: string[]; surfaces: string[]; arrangements: string[] } {
  const on = layers.filter((l) => l.on);
  const all = (of: (l: MaskLayer) => readonly string[]) => [...new Set(on.flatMap(of))];
  const named = (l: MaskLayer) =>
    l.kind === 'covered' || l.kind === 'outline' || (l.kind === 'distance' && l.of === 'things');
  return {
    paths: all((l) => (l.kind === 'inside' || (l.kind === 'distance' && l.of === 'paths') ? l.paths : [])),
    surfaces: all((l) =>
      named(l) ? (l as LayerOf<'covered'>).surfaces : l.kind === 'water' && l.surface ? [l.surface] : [],
    ),
    arrangements: all((l) => (named(l) ? (l as LayerOf<'covered'>).arrangements : [])),
  };
}

/** Layers that are read off the surface that a place is on. */
const READ = new Set(['slope', 'facing', 'curvature', 'picture', 'painted', 'u', 'v', 'distance', 'noise']);

/** Whether anything of a mask depends on the surface that a place is on. */
export const readsSurface = ({ layers }: Mask): boolean => layers.some((l) => l.on && READ.has(l.kind));
