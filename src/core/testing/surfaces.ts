import type { Vec3 } from '../math/vec3';
import { makeMesh } from '../mesh/make';
import { shapeSchema } from '../mesh/make/schema';
import type { Mesh } from '../mesh/mesh';
import { faceNormals, sharedNormals } from '../mesh/normals';
import { makeTriMesh, type TriMesh } from '../mesh/triMesh';

/** A made surface as it stands, moved place by place. */
export function triMeshOf(settings: object, move: (p: Vec3) => Vec3 = (p) => p): TriMesh {
  const mesh = makeMesh(shapeSchema.parse(settings), '#D8CDB6', {
    path: () => undefined,
  }) as Mesh;
  const positions = new Float64Array(mesh.positions.length);
  for (let o = 0; o < positions.length; o += 3)
    positions.set(move([mesh.positions[o], mesh.positions[o + 1], mesh.positions[o + 2]]), o);
  const normals = faceNormals(
    positions,
    mesh.indices,
    sharedNormals(mesh.positions, mesh.normals),
    mesh.normals,
  );
  return makeTriMesh({ positions, normals, indices: mesh.indices, uvs: mesh.uvs });
}
