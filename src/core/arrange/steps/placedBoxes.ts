import { newBoxes, writeBox } from '../../mesh/boxes';
import { buildBoxTree, type BoxTree } from '../../mesh/boxTree';
import { triMeshBounds } from '../../mesh/triMesh';
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
  const shapes = p.bent?.map(triMeshBounds);
  const shapeOf = (row: number) => (p.shape && p.shape[row] >= 0 ? shapes![p.shape[row]] : null);
  const rows: number[] = [];
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed && own[p.prop[i]]) rows.push(i);
  const boxes = newBoxes(rows.length);
  rows.forEach((row, k) => {
    const bent = shapeOf(row);
    writeBox(boxes, k, bent ?? own[p.prop[row]]!, p, row, bent !== null);
  });
  return { rows: Uint32Array.from(rows), tree: buildBoxTree(boxes) };
}
