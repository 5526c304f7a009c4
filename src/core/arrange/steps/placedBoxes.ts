import { newBoxes, writeBox } from '../../mesh/boxes';
import { buildBoxTree, type BoxTree } from '../../mesh/boxTree';
import { boxOf, type ArrangeContext } from '../context';
import { STATE, type Placements } from '../result';

/** What is placed, as boxes in a tree. */
export interface PlacedBoxes {
  /** Row of the placements behind each box. */
  rows: Uint32Array;
  tree: BoxTree;
}

const made = new WeakMap<Placements, PlacedBoxes>();

/**
 * The boxes of what is placed; a bent one's is that of its own shape. Props without a mesh at hand are not there. The
 * same placements have the same boxes, made once.
 */
export function placedBoxes(placements: Placements, context: ArrangeContext): PlacedBoxes {
  let found = made.get(placements);
  if (!found) made.set(placements, (found = boxesOf(placements, context)));
  return found;
}

function boxesOf(p: Placements, context: ArrangeContext): PlacedBoxes {
  const own = p.props.map((id) => boxOf(context, id));
  const shapes = p.bent?.map(({ positions }) => boundsOf(positions));
  const shapeOf = (row: number) => (p.shape && p.shape[row] >= 0 ? shapes?.[p.shape[row]] : undefined);
  const rows: number[] = [];
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed && own[p.prop[i]]) rows.push(i);
  const boxes = newBoxes(rows.length);
  rows.forEach((row, k) => {
    const bent = shapeOf(row);
    writeBox(boxes, k, bent ?? own[p.prop[row]]!, p, row, bent !== undefined);
  });
  return { rows: Uint32Array.from(rows), tree: buildBoxTree(boxes) };
}

function boundsOf(positions: Float64Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  positions.forEach((v, n) => {
    min[n % 3] = Math.min(min[n % 3], v);
    max[n % 3] = Math.max(max[n % 3], v);
  });
  return { min, max };
}
