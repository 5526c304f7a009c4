import type { Place } from '../../mesh/pin';
import { areasOf } from '../../mesh/scatter/areas';
import { latticeIn, type Lattice } from '../../mesh/scatter/lattice';
import type { TriMesh } from '../../mesh/triMesh';
import { uvIndex } from '../../mesh/chart/uvIndex';

/** Rows and columns by the texture coordinates of a surface: they follow it wherever it turns, over walls too. */

/** Metres that a whole u and a whole v are long, in the mean over the area; null without texture coordinates. */
function uvScale(mesh: TriMesh): [u: number, v: number] | null {
  const { uvs, positions: p, indices } = mesh;
  if (!uvs) return null;
  const { upTo } = areasOf(mesh);
  const sum = [0, 0];
  let area = 0;
  for (let f = 0; f < upTo.length; f++) {
    const own = upTo[f] - (f > 0 ? upTo[f - 1] : 0);
    const [a, b, c] = indices.subarray(f * 3, f * 3 + 3);
    const [du, dv] = [uvs[b * 2] - uvs[a * 2], uvs[b * 2 + 1] - uvs[a * 2 + 1]];
    const [eu, ev] = [uvs[c * 2] - uvs[a * 2], uvs[c * 2 + 1] - uvs[a * 2 + 1]];
    const det = du * ev - eu * dv;
    if (!(own > 0) || Math.abs(det) < 1e-18) continue;
    // How far the place goes for a step of u, and of v.
    const long = [
      [ev / det, -dv / det],
      [-eu / det, du / det],
    ].map(([k, l]) => {
      let square = 0;
      for (let x = 0; x < 3; x++) {
        const d = k * (p[b * 3 + x] - p[a * 3 + x]) + l * (p[c * 3 + x] - p[a * 3 + x]);
        square += d * d;
      }
      return Math.sqrt(square);
    });
    sum[0] += long[0] * own;
    sum[1] += long[1] * own;
    area += own;
  }
  return area > 0 ? [sum[0] / area, sum[1] / area] : null;
}

/**
 * Calls for every place of a lattice on a surface: rows along u, one above the other in v, as far apart as the lattice
 * says where u and v are as long as in the mean.
 * @param mesh at rest; its metres are those of the lattice
 * @returns whether it has texture coordinates
 */
export function latticeOnUv(
  lattice: Lattice,
  mesh: TriMesh,
  call: (face: number, u: number, v: number, key: number) => void,
): boolean {
  const scale = uvScale(mesh);
  const { uvs } = mesh;
  if (!scale || !uvs) return false;
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (let i = 0; i < uvs.length; i++) {
    low[i % 2] = Math.min(low[i % 2], uvs[i]);
    high[i % 2] = Math.max(high[i % 2], uvs[i]);
  }
  const index = uvIndex(mesh as TriMesh & { uvs: Float32Array });
  const place: Place = { face: -1, u: 0, v: 0 };
  // Half a distance in from the edges of the texture, as a gardener begins.
  const [u0, v0] = [low[0] * scale[0] + lattice.distance / 2, low[1] * scale[1] + lattice.distance / 2];
  const size = (a: 0 | 1) => (high[a] - low[a]) * scale[a] - lattice.distance / 2;
  latticeIn(lattice, [-lattice.distance / 2, -lattice.distance / 2], [size(0), size(1)], (x, z, key) => {
    if (index.find((x + u0) / scale[0], (z + v0) / scale[1], place)) call(place.face, place.u, place.v, key);
  });
  return true;
}
