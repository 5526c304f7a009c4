import { shapeOf, type ArrangeContext } from '../../arrange/context';
import type { Placements } from '../../arrange/result';
import { placedBoxes, type PlacedBoxes } from '../../arrange/steps/placedBoxes';
import type { BentMesh } from '../../mesh/bend';
import { buildBvh, type Bvh } from '../../mesh/bvh';

/** What of an arrangement stands in the scene. */
export interface Standing extends PlacedBoxes {
  /** Of the result that it was made from. */
  key: string;
  placements: Placements;
  /** The mesh of a row in its own space, and whether its sizes are in it already; null where it is not at hand. */
  mesh(row: number): { tree: Bvh; sized: boolean } | null;
}

/** What is placed; a bent one is its own shape. */
export const standingOf = (key: string, placements: Placements, context: ArrangeContext): Standing => ({
  ...placedBoxes(placements, context),
  key,
  placements,
  mesh(row) {
    const { shape, bent, props, prop } = placements;
    if (shape && shape[row] >= 0) return { tree: treeOf(bent![shape[row]]), sized: true };
    const found = shapeOf(context, props[prop[row]]);
    return found ? { tree: found.faller().tree, sized: false } : null;
  },
});

const trees = new WeakMap<BentMesh, Bvh>();

function treeOf(mesh: BentMesh): Bvh {
  let tree = trees.get(mesh);
  if (!tree) trees.set(mesh, (tree = buildBvh(mesh.positions, mesh.indices)));
  return tree;
}
