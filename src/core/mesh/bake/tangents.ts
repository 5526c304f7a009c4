import type * as MikkTSpace from 'mikktspace';
import type { TriMesh } from '../triMesh';

/** The library that makes tangents as every renderer does that bakes and draws normal maps (Mikkelsen’s MikkTSpace). */
type Library = typeof MikkTSpace;

let loaded: Library | null = null;
let loading: Promise<Library> | null = null;

/** Loads it, once; nobody does who bakes nothing. */
export const loadTangents = (): Promise<Library> =>
  (loading ??= import('mikktspace').then((library) => (loaded = library)));

/**
 * The tangents of a surface at the three corners of each face: x, y, z, and the sign of the bitangent for texture
 * coordinates whose v runs down the picture, as glTF’s do.
 * @throws Error before {@link loadTangents} has come to its end
 */
export function tangentsOf({
  positions,
  normals,
  indices,
  uvs,
}: TriMesh & { uvs: Float32Array }): Float32Array {
  if (!loaded) throw new Error('The library for tangents is not loaded.');
  const n = indices.length;
  const [p, m, t] = [new Float32Array(n * 3), new Float32Array(n * 3), new Float32Array(n * 2)];
  for (let i = 0; i < n; i++) {
    const v = indices[i];
    for (let k = 0; k < 3; k++) {
      p[i * 3 + k] = positions[v * 3 + k];
      m[i * 3 + k] = normals[v * 3 + k];
    }
    t[i * 2] = uvs[v * 2];
    t[i * 2 + 1] = uvs[v * 2 + 1];
  }
  const out = loaded.generateTangents(p, m, t);
  // It takes v as running up.
  for (let i = 3; i < out.length; i += 4) out[i] *= -1;
  return out;
}
