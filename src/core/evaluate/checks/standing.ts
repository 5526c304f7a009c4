import { boxOf, shapeOf, type ArrangeContext } from '../../arrange/context';
import { STATE, type Placements } from '../../arrange/result';
import type { BentMesh } from '../../mesh/bend';
import { newBoxes, writeBox } from '../../mesh/boxes';
import { buildBoxTree, type BoxTree } from '../../mesh/boxTree';
import { buildBvh, type Bvh } from '../../mesh/bvh';

/** What of an arrangement stands in the scene, as boxes. */
export interface Standing {
  /** Of the result that it was made from. */
  key: string;
  placements: Placements;
  /** Row of the placements behind each box. */
  rows: Uint32Array;
  tree: BoxTree;
  /** The mesh of a row in its own space, and whether its sizes are in it already; null where it is not at hand. */
  mesh(row: number): { tree: Bvh; sized: boolean } | null;
}

/** What is placed; a bent one is its own shape. Props without a mesh at hand are not there. */
export function standingOf(key: string, placements: Placements, context: ArrangeContext): Standing {
  const { props, state, prop, shape, bent } = placements;
  const own = props.map((id) => boxOf(context, id));
  const shapes = bent?.map(({ positions }) => boundsOf(positions));
  const isBent = (row: number) => shape !== undefined && shape[row] >= 0;
  const rows: number[] = [];
  for (let i = 0; i < placements.count; i++) if (state[i] === STATE.placed && own[prop[i]]) rows.push(i);
  const boxes = newBoxes(rows.length);
  rows.forEach((row, k) => {
    const box = isBent(row) ? shapes![shape![row]] : own[prop[row]]!;
    writeBox(boxes, k, box, placements, row, isBent(row));
  });
  return {
    key,
    placements,
    rows: Uint32Array.from(rows),
    tree: buildBoxTree(boxes),
    mesh(row) {
      if (isBent(row)) return { tree: treeOf(bent![shape![row]]), sized: true };
      const found = shapeOf(context, props[prop[row]]);
      return found ? { tree: found.faller().tree, sized: false } : null;
    },
  };
}

const trees = new WeakMap<BentMesh, Bvh>();

function treeOf(mesh: BentMesh): Bvh {
  let tree = trees.get(mesh);
  if (!tree) trees.set(mesh, (tree = buildBvh(mesh.positions, mesh.indices)));
  return tree;
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
