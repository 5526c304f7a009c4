import { buildBvh, type Bvh } from '../bvh';
import { mergedMeshes, type PlacedMesh } from '../merged';

/** What lies on a surface while it is looked at: all of it as one, with whose each face is. */
export interface Things {
  tree: Bvh;
  /** Unit xyz a vertex. */
  normals: Float32Array;
  indices: Uint32Array;
  /** Linear red, green, blue a vertex. */
  colors: Float32Array;
  /** The number of each face's prop, from 1. */
  owner: Uint16Array;
}

/** @param owners a number for each part, from 1 */
export function thingsOf(parts: readonly PlacedMesh[], owners: readonly number[]): Things {
  const mesh = mergedMeshes(parts);
  const colors = new Float32Array(mesh.positions.length).fill(1);
  const { indices } = mesh;
  for (const { start, count, material } of mesh.groups) {
    const { color, plain } = mesh.materials[material];
    for (let i = start; i < start + count; i++)
      for (let k = 0; k < 3; k++)
        colors[indices[i] * 3 + k] = color[k] * (mesh.colors && !plain ? mesh.colors[indices[i] * 3 + k] : 1);
  }
  const owner = new Uint16Array(indices.length / 3);
  let face = 0;
  parts.forEach((part, i) => {
    const faces = part.mesh.indices.length / 3;
    owner.fill(owners[i], face, face + faces);
    face += faces;
  });
  return {
    tree: buildBvh(Float64Array.from(mesh.positions), indices),
    normals: mesh.normals,
    indices,
    colors,
    owner,
  };
}
