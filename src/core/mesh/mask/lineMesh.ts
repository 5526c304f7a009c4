import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import { topologyOf } from '../lines/topology';
import { buildBvh, type Bvh } from '../bvh';
import { makeTriMesh, type TriMesh } from '../triMesh';

/** Lines as meshes of triangles without width, so that the nearest place on them is found by the same tree. */

/** @param pieces three numbers a triangle: the last two are the same where it is a piece of a line */
export function meshWithLines(positions: Float64Array, pieces: Uint32Array): TriMesh {
  let tree: Bvh | null = null;
  const mesh = makeTriMesh({ positions, normals: new Float64Array(positions.length), indices: pieces });
  return { ...mesh, tree: () => (tree ??= buildBvh(positions, pieces, undefined, true)) };
}

const meshOf = (positions: number[], pieces: number[]): TriMesh =>
  meshWithLines(Float64Array.from(positions), Uint32Array.from(pieces));

/** A turn of the line from one piece to the next, radians: arcs are off by less than 1.3e-5 of their radius. */
export const TURN = 0.01;

/** @param flat as seen from above, at height 0 */
export function lineMesh(strokes: readonly CompiledPath[], flat: boolean): TriMesh {
  const positions: number[] = [];
  const pieces: number[] = [];
  for (const stroke of strokes) {
    const at = polyline(stroke, TURN).position;
    const from = positions.length / 3;
    for (let o = 0; o < at.length; o += 3) positions.push(at[o], flat ? 0 : at[o + 1], at[o + 2]);
    const n = at.length / 3;
    for (let k = 0; k + 1 < n; k++) pieces.push(from + k, from + k + 1, from + k + 1);
    if (stroke.closed && n > 1) pieces.push(from + n - 1, from, from);
  }
  return meshOf(positions, pieces);
}

const bordered = new WeakMap<TriMesh, TriMesh>();

/** The border of a mesh: its sides with a face on one side only. */
export function borderMesh(mesh: TriMesh): TriMesh {
  let have = bordered.get(mesh);
  if (!have) {
    const { edges, faces, position } = topologyOf(mesh);
    const pieces: number[] = [];
    for (let e = 0; e * 2 < edges.length; e++)
      if (faces[e * 2 + 1] === -1) pieces.push(edges[e * 2], edges[e * 2 + 1], edges[e * 2 + 1]);
    bordered.set(mesh, (have = meshOf([...position], pieces)));
  }
  return have;
}

/** Some faces of a mesh, as a mesh; numbers that it does not have are passed over. */
export function facesOf(mesh: TriMesh, numbers: readonly number[]): TriMesh {
  const indices = numbers.flatMap((f) => [...mesh.indices.subarray(f * 3, f * 3 + 3)]);
  return makeTriMesh({
    positions: mesh.positions,
    normals: mesh.normals,
    indices: Uint32Array.from(indices),
  });
}
