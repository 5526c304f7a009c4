import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { buildBvh, type Bvh } from '../mesh/bvh';

/** Contact along the plumb line by looking at every pair: the reference for what is found through trees. */

/** Nine numbers a triangle. */
export type Triangles = ArrayLike<number>;

const at = (t: Triangles, o: number): Vec3 => [t[o], t[o + 1], t[o + 2]];

/** Height of a triangle's plane over (x, z), where that lies within it. */
function heightAt(t: Triangles, o: number, x: number, z: number): number | null {
  const [a, b, c] = [at(t, o), at(t, o + 3), at(t, o + 6)];
  const det = (b[0] - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (b[2] - a[2]);
  if (Math.abs(det) < 1e-12) return null;
  const u = ((x - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (z - a[2])) / det;
  const v = ((b[0] - a[0]) * (z - a[2]) - (x - a[0]) * (b[2] - a[2])) / det;
  return u >= 0 && v >= 0 && u + v <= 1 ? a[1] + u * (b[1] - a[1]) + v * (c[1] - a[1]) : null;
}

/** How far a thing falls straight down until it touches: its corners over faces, faces over corners, sides over sides. */
export function roomByPairs(thing: Triangles, ground: Triangles): number {
  let least = Infinity;
  for (let i = 0; i < thing.length; i += 9)
    for (let j = 0; j < ground.length; j += 9) {
      if ([0, 2].some((a) => isApart(thing, i + a, ground, j + a))) continue;
      for (let k = 0; k < 9; k += 3) {
        const [p, g] = [at(thing, i + k), at(ground, j + k)];
        const [under, over] = [heightAt(ground, j, p[0], p[2]), heightAt(thing, i, g[0], g[2])];
        if (under !== null) least = Math.min(least, p[1] - under);
        if (over !== null) least = Math.min(least, over - g[1]);
        const q = at(thing, i + ((k + 3) % 9));
        for (let m = 0; m < 9; m += 3) {
          const [a, b] = [at(ground, j + m), at(ground, j + ((m + 3) % 9))];
          const [ux, uz, vx, vz] = [q[0] - p[0], q[2] - p[2], b[0] - a[0], b[2] - a[2]];
          const det = ux * vz - uz * vx;
          if (Math.abs(det) < 1e-12) continue;
          const s = ((a[0] - p[0]) * vz - (a[2] - p[2]) * vx) / det;
          const t = ((a[0] - p[0]) * uz - (a[2] - p[2]) * ux) / det;
          if (s < 0 || s > 1 || t < 0 || t > 1) continue;
          least = Math.min(least, p[1] + s * (q[1] - p[1]) - a[1] - t * (b[1] - a[1]));
        }
      }
    }
  return least;
}

/** Whether two triangles do not overlap along an axis. */
const isApart = (s: Triangles, i: number, t: Triangles, j: number): boolean =>
  Math.max(s[i], s[i + 3], s[i + 6]) < Math.min(t[j], t[j + 3], t[j + 6]) ||
  Math.max(t[j], t[j + 3], t[j + 6]) < Math.min(s[i], s[i + 3], s[i + 6]);

/** Triangles of a mesh given by places and three indices each. */
export const trianglesBy = (places: ArrayLike<number>, indices: ArrayLike<number>): Float64Array =>
  Float64Array.from(
    { length: indices.length * 3 },
    (_, n) => places[indices[Math.floor(n / 3)] * 3 + (n % 3)],
  );

const QUADS = [
  [0, 1, 3, 2],
  [4, 6, 7, 5],
  [0, 4, 5, 1],
  [2, 3, 7, 6],
  [0, 2, 6, 4],
  [1, 5, 7, 3],
];

/** Triangles of a box between two corners. */
export function boxBetween(low: Vec3, high: Vec3): Float64Array {
  const corner = (k: number) => [
    k & 1 ? high[0] : low[0],
    k & 2 ? high[1] : low[1],
    k & 4 ? high[2] : low[2],
  ];
  return Float64Array.from(QUADS.flatMap(([a, b, c, d]) => [a, b, c, a, c, d].flatMap(corner)));
}

/** Several meshes as one. */
export const together = (...parts: Triangles[]): Float64Array =>
  Float64Array.from(parts.flatMap((p) => [...Array.from(p)]));

/** A field of `n` × `n` squares of two triangles each over a square of `size` metres, by heights. */
export function field(n: number, size: number, height: (x: number, z: number) => number): Float64Array {
  const out: number[] = [];
  const at = (i: number, k: number) => {
    const [x, z] = [(i / n - 0.5) * size, (k / n - 0.5) * size];
    return [x, height(x, z), z];
  };
  for (let i = 0; i < n; i++)
    for (let k = 0; k < n; k++)
      for (const [a, b] of [
        [0, 0],
        [0, 1],
        [1, 1],
        [0, 0],
        [1, 1],
        [1, 0],
      ])
        out.push(...at(i + a, k + b));
  return Float64Array.from(out);
}

/** A tree over triangles. */
export const treeOf = (t: Triangles): Bvh =>
  buildBvh(
    Float64Array.from(t),
    Uint32Array.from({ length: t.length / 3 }, (_, k) => k),
  );

/** Rows of the 3 × 3 matrix that changes nothing. */
export const SAME = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** Rows of the matrix that sizes and then turns. */
export function rowsOf(q: Quat, size: Vec3): number[] {
  const axes: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const columns = axes.map((v, a) => quatRotate(q, v).map((c) => c * size[a]));
  return [0, 1, 2].flatMap((r) => columns.map((c) => c[r]));
}

/** Triangles by the rows of a matrix about their foot, and where that is. */
export const posed = (t: Triangles, m: readonly number[], foot: Vec3): Float64Array =>
  Float64Array.from(t, (_, n) => {
    const [o, r] = [n - (n % 3), n % 3];
    return m[r * 3] * t[o] + m[r * 3 + 1] * t[o + 1] + m[r * 3 + 2] * t[o + 2] + foot[r];
  });

/** A profile turned about the upright, of `n` sides. */
function turnedProfile(profile: [radius: number, height: number][], n: number): Float64Array {
  const at = (i: number, k: number): Vec3 => {
    const [r, h] = profile[i];
    const angle = (2 * Math.PI * (k % n)) / n;
    return [r * Math.sin(angle), h, r * Math.cos(angle)];
  };
  const out: number[] = [];
  for (let i = 0; i + 1 < profile.length; i++)
    for (let k = 0; k < n; k++) {
      const [a, b, c, d] = [at(i, k), at(i, k + 1), at(i + 1, k + 1), at(i + 1, k)];
      if (profile[i][0] > 0) out.push(...a, ...b, ...c);
      if (profile[i + 1][0] > 0) out.push(...a, ...c, ...d);
    }
  return Float64Array.from(out);
}

/** A bollard of 14 sides: wider below and above than in its middle. */
export const bollard = turnedProfile(
  [
    [0, 0],
    [0.26, 0],
    [0.26, 0.06],
    [0.16, 0.42],
    [0.25, 0.6],
    [0, 0.8],
  ],
  14,
);
