/**
 * Writes the cross product of two sides of a triangle to `out`: along its normal, twice its area long.
 * @param positions xyz a vertex @param indices three a triangle
 */
export function faceCross(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  face: number,
  out: Float64Array,
): void {
  const p = positions;
  const a = indices[face * 3] * 3;
  const b = indices[face * 3 + 1] * 3;
  const c = indices[face * 3 + 2] * 3;
  const ex = p[b] - p[a];
  const ey = p[b + 1] - p[a + 1];
  const ez = p[b + 2] - p[a + 2];
  const fx = p[c] - p[a];
  const fy = p[c + 1] - p[a + 1];
  const fz = p[c + 2] - p[a + 2];
  out[0] = ey * fz - ez * fy;
  out[1] = ez * fx - ex * fz;
  out[2] = ex * fy - ey * fx;
}
