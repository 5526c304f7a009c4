import { faceCross } from './face';
import { sameRows } from './sameRows';

/**
 * Which vertices share a normal: those at one place whose normals agree at rest. A crease, where they do not, stays
 * a crease however the surface is bent; a seam of the texture does not show.
 * @returns for each vertex the first one of its kind
 */
export function sharedNormals(positions: ArrayLike<number>, normals: ArrayLike<number>): Uint32Array {
  let size = 0;
  for (let i = 0; i < positions.length; i++) size = Math.max(size, Math.abs(positions[i]) || 0);
  // A pole's vertices, and both sides of a seam, lie together but for rounding.
  const fine = size > 0 ? 1e7 / size : 1;
  const rows = new Int32Array(positions.length * 2);
  for (let i = 0; i < positions.length; i += 3)
    for (let a = 0; a < 3; a++) {
      rows[i * 2 + a] = Math.round(positions[i + a] * fine);
      rows[i * 2 + 3 + a] = Math.round(normals[i + a] * 500);
    }
  return sameRows(rows, 6);
}

/**
 * Unit normals of a mesh from its faces, each weighing by its area. A vertex without any area keeps `fallback`.
 * @param shared from {@link sharedNormals}
 */
export function faceNormals(
  positions: Float64Array,
  indices: Uint32Array,
  shared: Uint32Array,
  fallback: ArrayLike<number>,
): Float64Array {
  const out = new Float64Array(positions.length);
  const across = new Float64Array(3);
  for (let i = 0; i < indices.length; i += 3) {
    faceCross(positions, indices, i / 3, across);
    for (let k = 0; k < 3; k++) {
      const o = shared[indices[i + k]] * 3;
      for (let a = 0; a < 3; a++) out[o + a] += across[a];
    }
  }
  for (let i = 0; i < shared.length; i++) {
    const o = i * 3;
    if (shared[i] !== i) {
      // Its first one lies before it and is done.
      const s = shared[i] * 3;
      out[o] = out[s];
      out[o + 1] = out[s + 1];
      out[o + 2] = out[s + 2];
      continue;
    }
    const l = Math.sqrt(out[o] * out[o] + out[o + 1] * out[o + 1] + out[o + 2] * out[o + 2]);
    for (let a = 0; a < 3; a++) out[o + a] = l > 0 ? out[o + a] / l : fallback[o + a];
  }
  return out;
}
