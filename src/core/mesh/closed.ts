import { boxMesh } from './boxMesh';
import { chain, topologyOf } from './lines/topology';
import { makeTriMesh, triMeshBounds, type TriMesh } from './triMesh';

/** Closed meshes out of open ones, so that they have an inside. */

const lids = new WeakMap<TriMesh, TriMesh>();
const boxes = new WeakMap<TriMesh, TriMesh>();

/** A mesh with a lid over each border: a fan from the middle of the border to its sides. The same object each time. */
export function withLids(mesh: TriMesh): TriMesh {
  let have = lids.get(mesh);
  if (have) return have;
  const { edges, faces, position, first } = topologyOf(mesh);
  const open: [number, number][] = [];
  for (let e = 0; e * 2 < edges.length; e++)
    if (faces[e * 2 + 1] === -1) open.push([edges[e * 2], edges[e * 2 + 1]]);
  const positions = [...mesh.positions];
  const indices = [...mesh.indices];
  for (const { ids } of chain(open)) {
    const middle = positions.length / 3;
    const sum = [0, 0, 0];
    for (const v of ids) for (let a = 0; a < 3; a++) sum[a] += position[v * 3 + a] / ids.length;
    positions.push(...sum);
    // Borders run with their face on the left: the lid runs the other way.
    ids.forEach((v, i) => indices.push(first[ids[(i + 1) % ids.length]], first[v], middle));
  }
  have = makeTriMesh({
    positions: Float64Array.from(positions),
    normals: new Float64Array(positions.length),
    indices: Uint32Array.from(indices),
  });
  lids.set(mesh, have);
  return have;
}

/** The box about a mesh in its own frame, as a mesh. The same object each time. */
export function boxAbout(mesh: TriMesh): TriMesh {
  let have = boxes.get(mesh);
  const bounds = triMeshBounds(mesh);
  if (have || !bounds) return have ?? mesh;
  const { positions, indices } = boxMesh(bounds);
  have = makeTriMesh({ positions, normals: new Float64Array(24), indices });
  boxes.set(mesh, have);
  return have;
}
