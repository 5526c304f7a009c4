import type { Generator } from '../schema';
import type { CompiledPath } from '../compile';
import { arc, circle, line, polygon, polyline, rectangle, type Generated } from './flat';
import { strand } from './strand';
import { coil, helix, spiral } from './wound';

export type { Generated } from './flat';

/**
 * The strokes of a generator, about the origin (a coil: where its base is).
 * @param base strokes of the path that a coil winds around @returns 'too-fine' where it would have too many points
 */
export function generate(g: Generator, base: CompiledPath[] = []): Generated[] | 'too-fine' {
  if (g.shape === 'coil') {
    const made = base.map((b) => coil(g, b));
    return made.includes('too-fine') ? 'too-fine' : (made as Generated[]);
  }
  const one = single(g);
  return one === 'too-fine' ? one : [one];
}

function single(g: Exclude<Generator, { shape: 'coil' }>): Generated | 'too-fine' {
  switch (g.shape) {
    case 'line':
      return line(g);
    case 'polyline':
      return polyline(g);
    case 'circle':
      return circle(g);
    case 'arc':
      return arc(g);
    case 'rectangle':
      return rectangle(g);
    case 'polygon':
      return polygon(g);
    case 'helix':
      return helix(g);
    case 'spiral':
      return spiral(g);
    case 'strand':
      return strand(g);
  }
}
