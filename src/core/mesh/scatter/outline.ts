/** Lines that close, seen from above: what lies inside them, and how much that is. */
export interface Outline {
  /** Whether x, z is inside one of them, and not in a hole: an odd number of lines go round it. */
  inside(x: number, z: number): boolean;
  /** Whether some of what is inside may come within a distance of x, z. */
  near(x: number, z: number, within: number): boolean;
  /** Square metres. */
  area: number;
  min: [x: number, z: number];
  max: [x: number, z: number];
}

/** Rows of edges that a test goes through alone. */
const BANDS = 256;

/** @param rings xyz a place of each line */
export function outlineOf(rings: readonly ArrayLike<number>[]): Outline {
  const min: [number, number] = [Infinity, Infinity];
  const max: [number, number] = [-Infinity, -Infinity];
  /** Edges, each as x, z, x, z. */
  const edges: number[] = [];
  for (const ring of rings) {
    const n = ring.length / 3;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const [x, z] = [ring[i * 3], ring[i * 3 + 2]];
      edges.push(ring[j * 3], ring[j * 3 + 2], x, z);
      min[0] = Math.min(min[0], x);
      max[0] = Math.max(max[0], x);
      min[1] = Math.min(min[1], z);
      max[1] = Math.max(max[1], z);
    }
  }
  const tall = (max[1] - min[1]) / BANDS;
  const bands: number[][] = Array.from({ length: BANDS }, () => []);
  const band = (z: number) => Math.min(BANDS - 1, Math.max(0, Math.floor((z - min[1]) / tall)));
  if (tall > 0)
    for (let e = 0; e < edges.length; e += 4) {
      const [from, to] = [
        band(Math.min(edges[e + 1], edges[e + 3])),
        band(Math.max(edges[e + 1], edges[e + 3])),
      ];
      for (let b = from; b <= to; b++) bands[b].push(e);
    }
  /** Where the lines cross a level, from left to right. */
  const crossings = (z: number): number[] =>
    bands[band(z)]
      .filter((e) => edges[e + 1] > z !== edges[e + 3] > z)
      .map((e) => edges[e] + ((z - edges[e + 1]) / (edges[e + 3] - edges[e + 1])) * (edges[e + 2] - edges[e]))
      .sort((a, b) => a - b);
  const inside = (x: number, z: number): boolean => {
    if (!(tall > 0) || z < min[1] || z > max[1]) return false;
    let odd = false;
    for (const e of bands[band(z)]) {
      if (edges[e + 1] > z === edges[e + 3] > z) continue;
      const k = (z - edges[e + 1]) / (edges[e + 3] - edges[e + 1]);
      if (x < edges[e] + k * (edges[e + 2] - edges[e])) odd = !odd;
    }
    return odd;
  };
  const near = (x: number, z: number, within: number): boolean => {
    if (!(tall > 0) || z + within < min[1] || z - within > max[1]) return false;
    if (x + within < min[0] || x - within > max[0]) return false;
    if (inside(x, z)) return true;
    for (let b = band(z - within); b <= band(z + within); b++)
      for (const e of bands[b]) {
        const [dx, dz] = [edges[e + 2] - edges[e], edges[e + 3] - edges[e + 1]];
        const [px, pz] = [x - edges[e], z - edges[e + 1]];
        const long = dx * dx + dz * dz;
        const k = long > 0 ? Math.min(1, Math.max(0, (px * dx + pz * dz) / long)) : 0;
        const [rx, rz] = [px - k * dx, pz - k * dz];
        if (rx * rx + rz * rz <= within * within) return true;
      }
    return false;
  };
  return { inside, near, area: areaUnder(crossings, min[1], max[1]), min, max };
}

/** Levels that the area is measured at. */
const LEVELS = 2048;

/** What lies between the first and the second crossing of each level, the third and the fourth, and so on. */
function areaUnder(crossings: (z: number) => number[], from: number, to: number): number {
  if (!(to > from)) return 0;
  const step = (to - from) / LEVELS;
  let area = 0;
  for (let i = 0; i < LEVELS; i++) {
    const at = crossings(from + (i + 0.5) * step);
    for (let k = 0; k + 1 < at.length; k += 2) area += (at[k + 1] - at[k]) * step;
  }
  return area;
}
