import type { Mesh } from '../mesh';

/** A mesh as it is seen from above, along its up axis: what a stamp of it is drawn from. */
export interface SeenFromAbove {
  /** Pixels, the upper row first: what lies at −z. */
  columns: number;
  rows: number;
  /** Metres that the picture covers to the side and along, its middle at the foot of what is seen. */
  width: number;
  length: number;
  /** Metres from black to white. */
  depth: number;
  /** Linear red, green, blue, and how much of the pixel is covered, 0–1. */
  color: Float32Array;
  /** 0–1, black where nothing is. */
  height: Float32Array;
  /** Where its middle is, x and z, from the origin of the mesh. */
  middle: [number, number];
}

/** Pixels along the longer side. */
const FINE = 256;
/** Free about it, so that its edge is not that of the picture: pixels. */
const RIM = 2;
/** Each pixel is looked at at so many by so many places. */
const WITHIN = 3;

/**
 * Looks at a mesh from above. What reaches below its foot is not seen: it is in what it lies on.
 * @param matrix from the mesh to metres from its foot, up on y, front on z @returns null for a mesh without an extent
 */
export function seenFromAbove(mesh: Mesh, matrix: ArrayLike<number>): SeenFromAbove | null {
  const { positions: p, indices, colors, groups, materials } = mesh;
  const at = new Float64Array(p.length);
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i += 3)
    for (let r = 0; r < 3; r++) {
      const v = matrix[r] * p[i] + matrix[4 + r] * p[i + 1] + matrix[8 + r] * p[i + 2] + matrix[12 + r];
      at[i + r] = v;
      low[r] = Math.min(low[r], v);
      high[r] = Math.max(high[r], v);
    }
  const [wide, long, depth] = [high[0] - low[0], high[2] - low[2], Math.max(high[1], 0)];
  if (!(wide > 0 && long > 0)) return null;
  const pixel = Math.max(wide, long) / (FINE - 2 * RIM);
  const columns = Math.max(8, Math.ceil(wide / pixel) + 2 * RIM);
  const rows = Math.max(8, Math.ceil(long / pixel) + 2 * RIM);
  const [cx, cz] = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
  const [n, m] = [columns * WITHIN, rows * WITHIN];
  const [left, upper] = [cx - (columns * pixel) / 2, cz - (rows * pixel) / 2];
  const fine = pixel / WITHIN;
  const top = new Float32Array(n * m).fill(-Infinity);
  const seen = new Float32Array(n * m * 3);
  for (const group of groups) {
    const { color } = materials[group.material];
    const own = (v: number, k: number) =>
      color[k] * (colors && !materials[group.material].plain ? colors[v * 3 + k] : 1);
    for (let o = group.start; o < group.start + group.count; o += 3) {
      const [a, b, c] = [indices[o], indices[o + 1], indices[o + 2]];
      const [ax, az, bx, bz, dx, dz] = [a, b, c].flatMap((v) => [
        (at[v * 3] - left) / fine - 0.5,
        (at[v * 3 + 2] - upper) / fine - 0.5,
      ]);
      const area = (bx - ax) * (dz - az) - (bz - az) * (dx - ax);
      if (area === 0) continue;
      const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, dx)));
      const x1 = Math.min(n - 1, Math.floor(Math.max(ax, bx, dx)));
      const z0 = Math.max(0, Math.ceil(Math.min(az, bz, dz)));
      const z1 = Math.min(m - 1, Math.floor(Math.max(az, bz, dz)));
      for (let z = z0; z <= z1; z++)
        for (let x = x0; x <= x1; x++) {
          const s = ((x - ax) * (dz - az) - (z - az) * (dx - ax)) / area;
          const t = ((bx - ax) * (z - az) - (bz - az) * (x - ax)) / area;
          if (s < 0 || t < 0 || s + t > 1) continue;
          const y = at[a * 3 + 1] * (1 - s - t) + at[b * 3 + 1] * s + at[c * 3 + 1] * t;
          const i = z * n + x;
          if (y < 0 || y <= top[i]) continue;
          top[i] = y;
          for (let k = 0; k < 3; k++)
            seen[i * 3 + k] = own(a, k) * (1 - s - t) + own(b, k) * s + own(c, k) * t;
        }
    }
  }
  const out = new Float32Array(columns * rows * 4);
  const height = new Float32Array(columns * rows);
  for (let z = 0; z < rows; z++)
    for (let x = 0; x < columns; x++) {
      const i = z * columns + x;
      let there = 0;
      for (let k = 0; k < WITHIN * WITHIN; k++) {
        const f = (z * WITHIN + Math.floor(k / WITHIN)) * n + x * WITHIN + (k % WITHIN);
        if (top[f] === -Infinity) continue;
        there++;
        for (let c = 0; c < 3; c++) out[i * 4 + c] += seen[f * 3 + c];
        height[i] += depth > 0 ? top[f] / depth / (WITHIN * WITHIN) : 0;
      }
      for (let c = 0; c < 3; c++) out[i * 4 + c] /= there || 1;
      out[i * 4 + 3] = there / (WITHIN * WITHIN);
    }
  return {
    columns,
    rows,
    width: columns * pixel,
    length: rows * pixel,
    depth,
    color: out,
    height,
    middle: [cx, cz],
  };
}
