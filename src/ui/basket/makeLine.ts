import { meshRefSchema, type LineMesh } from '@/core/mesh/meshRef';
import { addProp } from '@/store/commands/scene';
import { dispatch } from '@/store/document';
import { selectNode } from '@/store/selection';

/** What can be made for lines, and what it is to begin with. */
export const LINES = {
  tube: { name: 'Tube', mesh: lineOf(1, 12) },
  rope: { name: 'Twisted rope', mesh: lineOf(3, 6) },
};

function lineOf(strands: number, sides: number): LineMesh {
  return meshRefSchema.parse({ source: 'line', strands, sides }) as LineMesh;
}

/** Takes a tube or a rope into the basket, made from numbers, and shows it. */
export function makeLine(what: keyof typeof LINES): void {
  // Its middle goes along the line.
  const made = dispatch(addProp, { ...LINES[what], settings: { foot: { at: 'centre' } } });
  if (made) selectNode('prop', made);
}
