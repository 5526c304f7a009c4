import { shapeOf, type ArrangeContext } from '../../arrange/context';
import type { ArrangementResult, Placements } from '../../arrange/result';
import { matrixOf } from '../../arrange/steps/groundContact';
import { placedBoxes, type PlacedBoxes } from '../../arrange/steps/placedBoxes';
import type { BentMesh } from '../../mesh/bend';
import { buildBvh, type Bvh } from '../../mesh/bvh';
import type { Seen } from '../../mesh/crossing';
import { laidOpen } from './laidOpen';

/** What of an arrangement stands in the scene. */
export interface Standing extends PlacedBoxes {
  /** Of the result that it was made from. */
  key: string;
  /** Of all that stands there: in the place of copies of bundles what those hold. */
  placements: Placements;
  /** The row of the arrangement that a row there comes from. */
  from(row: number): number;
  /** The mesh of a row in its own space, and whether its sizes are in it already; null where it is not at hand. */
  mesh(row: number): { tree: Bvh; sized: boolean } | null;
}

/** What is placed; a bent one is its own shape, a copy of a bundle all that it holds. */
export function standingOf(
  key: string,
  result: Pick<ArrangementResult, 'placements' | 'inside'>,
  context: ArrangeContext,
): Standing {
  const { placements, from } = laidOpen(result);
  return {
    ...placedBoxes(placements, context),
    key,
    placements,
    from: (row) => (from ? from[row] : row),
    mesh(row) {
      const { shape, bent, props, prop } = placements;
      if (shape && shape[row] >= 0) return { tree: treeOf(bent![shape[row]]), sized: true };
      const found = shapeOf(context, props[prop[row]]);
      return found ? { tree: found.faller().tree, sized: false } : null;
    },
  };
}

/** A row's mesh as seen from a place; null where it is not at hand. */
export function seen({ placements: p, mesh }: Standing, row: number, from: ArrayLike<number>): Seen | null {
  const found = mesh(row);
  if (!found) return null;
  const m = matrixOf(p, row);
  if (found.sized) for (let k = 0; k < 9; k++) m[k] /= p.scale[row * 3 + (k % 3)];
  return {
    tree: found.tree,
    m,
    at: Float64Array.from({ length: 3 }, (_, r) => p.position[row * 3 + r] - from[r]),
  };
}

const trees = new WeakMap<BentMesh, Bvh>();

function treeOf(mesh: BentMesh): Bvh {
  let tree = trees.get(mesh);
  if (!tree) trees.set(mesh, (tree = buildBvh(mesh.positions, mesh.indices)));
  return tree;
}
