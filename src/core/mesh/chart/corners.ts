import { cos } from '../../math/portable';
import { DEG } from '../../math/quat';
import { dot } from '../../math/vec3';
import { acrossSide } from '../lines/topology';
import { faceNormal, type TriMesh } from '../triMesh';
import { uvIndex } from './uvIndex';

/** Which parts of a texture hold edges that nothing should lie across. */
export interface Corners {
  /** Whether the surface has sharp edges at all. */
  sharp: boolean;
  /** Whether a sharp edge may lie between these values of u and v; never false where one does. */
  maySharp(u0: number, u1: number, v0: number, v1: number): boolean;
  /** Whether the border of an island may lie there, or no texture at all; never false where it does. */
  mayEnd(u0: number, u1: number, v0: number, v1: number): boolean;
}

const CELLS = 256;
const kept = new WeakMap<TriMesh, { angle: number; corners: Corners }>();

/**
 * The sharp edges and the borders of a surface's texture, rastered once a surface: whether a rectangle of the texture
 * is free of them is then known from four sums (a summed-area table).
 * @param surface at rest; without texture coordinates anything may be anywhere
 * @param angleDeg edges whose faces turn by more are sharp
 */
export function cornersOf(surface: TriMesh, angleDeg: number): Corners {
  let have = kept.get(surface);
  if (have?.angle !== angleDeg)
    kept.set(surface, (have = { angle: angleDeg, corners: makeCorners(surface, angleDeg) }));
  return have.corners;
}

function makeCorners(surface: TriMesh, angleDeg: number): Corners {
  const { indices, uvs } = surface;
  const topology = surface.topology();
  const { weld } = topology;
  const limit = cos(angleDeg * DEG);
  const index = uvs && uvIndex(surface as TriMesh & { uvs: Float32Array });
  const [ends, sharps] = [0, 1].map(() => index && raster(index.u, index.v));
  let sharp = false;
  const near = index ? 1e-6 * (index.u[1] - index.u[0] + index.v[1] - index.v[0]) : 0;
  /** Whether the face across a side has its two ends in the same place of the texture. */
  const together = (from: number, to: number, other: number, at: Float32Array): boolean =>
    [from, to].every((i) =>
      [0, 1, 2].some((k) => {
        const j = indices[other * 3 + k];
        const off = Math.abs(at[i * 2] - at[j * 2]) + Math.abs(at[i * 2 + 1] - at[j * 2 + 1]);
        return weld[i] === weld[j] && off <= near;
      }),
    );
  for (let f = 0; f * 3 < indices.length; f++)
    for (let k = 0; k < 3; k++) {
      const [from, to] = [indices[f * 3 + k], indices[f * 3 + ((k + 1) % 3)]];
      const other = acrossSide(topology, f, k);
      if (uvs && (other < 0 || !together(from, to, other, uvs))) ends?.mark(uvs, from, to);
      if (other < 0 || dot(faceNormal(surface, f), faceNormal(surface, other)) >= limit) continue;
      sharp = true;
      if (uvs) sharps?.mark(uvs, from, to);
    }
  return {
    sharp,
    maySharp: sharps?.sums(false) ?? (() => sharp),
    mayEnd: ends?.sums(true) ?? (() => true),
  };
}

/** A grid over a texture in which lines are marked. */
function raster([u0, u1]: [number, number], [v0, v1]: [number, number]) {
  const side = CELLS + 1;
  const table = new Uint32Array(side * side);
  const kx = CELLS / (u1 - u0 || 1);
  const ky = CELLS / (v1 - v0 || 1);
  const cell = (t: number) => Math.min(CELLS - 1, Math.max(0, Math.floor(t)));
  return {
    /** Marks every cell that the side between two vertices meets: those of the box of each piece no longer than half a cell. */
    mark(uvs: Float32Array, from: number, to: number): void {
      const [xa, ya] = [(uvs[from * 2] - u0) * kx, (uvs[from * 2 + 1] - v0) * ky];
      const [xb, yb] = [(uvs[to * 2] - u0) * kx, (uvs[to * 2 + 1] - v0) * ky];
      const n = Math.max(1, Math.ceil(Math.max(Math.abs(xb - xa), Math.abs(yb - ya)) * 2));
      let [px, py] = [xa, ya];
      for (let i = 1; i <= n; i++) {
        const [x, y] = [xa + ((xb - xa) * i) / n, ya + ((yb - ya) * i) / n];
        for (let r = cell(Math.min(py, y)); r <= cell(Math.max(py, y)); r++)
          for (let c = cell(Math.min(px, x)); c <= cell(Math.max(px, x)); c++)
            table[(r + 1) * side + c + 1] = 1;
        [px, py] = [x, y];
      }
    },
    /** @param outside what is said of a rectangle that leaves the texture */
    sums(outside: boolean) {
      for (let r = 1; r < side; r++)
        for (let c = 1; c < side; c++)
          table[r * side + c] +=
            table[(r - 1) * side + c] + table[r * side + c - 1] - table[(r - 1) * side + c - 1];
      return (ua: number, ub: number, va: number, vb: number): boolean => {
        if (outside && !(ua >= u0 && ub <= u1 && va >= v0 && vb <= v1)) return true;
        // A hair wider: a line on the border of two cells is in both.
        const left = cell((ua - u0) * kx - 1e-6);
        const right = cell((ub - u0) * kx + 1e-6) + 1;
        const low = cell((va - v0) * ky - 1e-6) * side;
        const high = (cell((vb - v0) * ky + 1e-6) + 1) * side;
        return table[high + right] - table[low + right] - table[high + left] + table[low + left] > 0;
      };
    },
  };
}
