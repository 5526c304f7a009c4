import type { Mesh } from './mesh';

/** What of a mesh is sliced: its vertices by their numbers, and its faces in groups. */
export interface Sliced {
  positions: Float64Array;
  normals: Float64Array;
  uvs?: Float32Array;
  colors?: Float32Array;
  indices: Uint32Array;
  groups: { start: number; count: number; material: number }[];
}

/** More vertices than any mesh has: two of them in one key. */
const STRIDE = 0x4000000;

/** A mesh carried by an affine map, column-major, its normals with it; a mirroring one turns the faces over. */
export function ownSpace(mesh: Mesh, m: ArrayLike<number>): Sliced {
  const n = mesh.positions.length;
  const positions = new Float64Array(n);
  const normals = new Float64Array(n);
  const scale = Math.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2]) || 1;
  for (let o = 0; o < n; o += 3)
    for (let r = 0; r < 3; r++) {
      const [p, q] = [mesh.positions, mesh.normals];
      positions[o + r] = m[r] * p[o] + m[4 + r] * p[o + 1] + m[8 + r] * p[o + 2] + m[12 + r];
      normals[o + r] = (m[r] * q[o] + m[4 + r] * q[o + 1] + m[8 + r] * q[o + 2]) / scale;
    }
  const { uvs, colors, indices, groups } = mesh;
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices, groups };
}

/** {@link sliceAlong} the front axis. */
export const sliceAlongZ = (mesh: Sliced, planes: readonly number[]): Sliced => sliceAlong(mesh, 2, planes);

/**
 * Cuts every face that crosses one of the planes square to an axis (x, y, z: 0, 1, 2) into faces on either side: the shape stays, and bends there.
 * New vertices lie on the cut edges, their normals, texture coordinates and colours between those of the ends.
 * @param planes rising
 */
export function sliceAlong(mesh: Sliced, axis: 0 | 1 | 2, planes: readonly number[]): Sliced {
  if (planes.length === 0) return mesh;
  const positions = [...mesh.positions];
  const normals = [...mesh.normals];
  const uvs = mesh.uvs && [...mesh.uvs];
  const colors = mesh.colors && [...mesh.colors];
  let size = 0;
  for (const v of mesh.positions) size = Math.max(size, Math.abs(v));
  const hair = size * 1e-9;
  /** For each plane the vertices on it, by the edge that they cut: both faces at an edge get the same one. */
  const cuts = planes.map(() => new Map<number, number>());
  const z = (v: number) => positions[v * 3 + axis];
  const crossing = (a: number, b: number, k: number): number => {
    const [p, q] = a < b ? [a, b] : [b, a];
    const key = p * STRIDE + q;
    const have = cuts[k].get(key);
    if (have !== undefined) return have;
    const u = (planes[k] - z(p)) / (z(q) - z(p));
    const mix = (list: number[], width: number) => {
      for (let n = 0; n < width; n++)
        list.push(list[p * width + n] + (list[q * width + n] - list[p * width + n]) * u);
    };
    const made = positions.length / 3;
    mix(positions, 3);
    positions[made * 3 + axis] = planes[k];
    mix(normals, 3);
    if (uvs) mix(uvs, 2);
    if (colors) mix(colors, 3);
    cuts[k].set(key, made);
    return made;
  };
  /** The first plane above a height. */
  const firstAbove = (height: number): number => {
    let low = 0;
    let high = planes.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (planes[mid] > height + hair) high = mid;
      else low = mid + 1;
    }
    return low;
  };
  const groups = mesh.groups.map(({ start, count, material }) => {
    const out: number[] = [];
    for (let i = start; i < start + count; i += 3) {
      const [a, b, c] = [mesh.indices[i], mesh.indices[i + 1], mesh.indices[i + 2]];
      const top = Math.max(z(a), z(b), z(c));
      // What lies below a plane is done with; what lies above goes on to the next.
      let rest = [a, b, c];
      for (let k = firstAbove(Math.min(z(a), z(b), z(c))); k < planes.length && planes[k] < top - hair; k++)
        rest = partAt(rest, k, out);
      out.push(...rest);
    }
    return { material, faces: out };
  });
  /** Parts faces at a plane: the lower ones go to `done`. @returns the upper ones */
  function partAt(faces: number[], k: number, done: number[]): number[] {
    const plane = planes[k];
    const above: number[] = [];
    for (let i = 0; i < faces.length; i += 3) {
      const v = [faces[i], faces[i + 1], faces[i + 2]];
      const side = v.map((n) => (z(n) > plane + hair ? 1 : z(n) < plane - hair ? -1 : 0));
      if (!side.includes(1) || !side.includes(-1)) {
        (side.includes(1) ? above : done).push(...v);
        continue;
      }
      // The ring of corners with the crossings put in between, parted at the plane.
      const [low, high]: [number[], number[]] = [[], []];
      for (let n = 0; n < 3; n++) {
        const m = (n + 1) % 3;
        if (side[n] <= 0) low.push(v[n]);
        if (side[n] >= 0) high.push(v[n]);
        if (side[n] * side[m] < 0) {
          const c = crossing(v[n], v[m], k);
          low.push(c);
          high.push(c);
        }
      }
      for (let n = 1; n + 1 < low.length; n++) done.push(low[0], low[n], low[n + 1]);
      for (let n = 1; n + 1 < high.length; n++) above.push(high[0], high[n], high[n + 1]);
    }
    return above;
  }
  return joined({ positions, normals, uvs, colors }, groups);
}

/** A mesh of lists that have grown, its faces by their groups; vertices that no face has are left out. */
export function joined(
  lists: { positions: number[]; normals: number[]; uvs?: number[]; colors?: number[] },
  parts: { material: number; faces: number[] }[],
): Sliced {
  const { positions, normals, uvs, colors } = lists;
  const used = new Uint8Array(positions.length / 3);
  for (const { faces } of parts) for (const v of faces) used[v] = 1;
  const number = new Uint32Array(used.length);
  let count = 0;
  used.forEach((is, v) => is && (number[v] = count++));
  const kept = (list: number[], width: number): number[] =>
    count === used.length ? list : list.filter((_, i) => used[Math.floor(i / width)]);
  const indices: number[] = [];
  const groups = parts.map(({ material, faces }) => {
    const start = indices.length;
    for (const v of faces) indices.push(number[v]);
    return { start, count: faces.length, material };
  });
  return {
    positions: Float64Array.from(kept(positions, 3)),
    normals: Float64Array.from(kept(normals, 3)),
    ...(uvs && { uvs: Float32Array.from(kept(uvs, 2)) }),
    ...(colors && { colors: Float32Array.from(kept(colors, 3)) }),
    indices: Uint32Array.from(indices),
    groups,
  };
}
