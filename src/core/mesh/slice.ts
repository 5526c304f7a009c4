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

/**
 * Cuts every face that crosses one of the planes z = const into faces on either side: the shape stays, and bends there.
 * New vertices lie on the cut edges, their normals, texture coordinates and colours between those of the ends.
 * @param planes rising
 */
export function sliceAlongZ(mesh: Sliced, planes: readonly number[]): Sliced {
  const positions = [...mesh.positions];
  const normals = [...mesh.normals];
  const uvs = mesh.uvs && [...mesh.uvs];
  const colors = mesh.colors && [...mesh.colors];
  let size = 0;
  for (const v of mesh.positions) size = Math.max(size, Math.abs(v));
  const hair = size * 1e-9;
  const cut = new Map<string, number>();
  const z = (v: number) => positions[v * 3 + 2];
  const crossing = (a: number, b: number, plane: number): number => {
    const [p, q] = a < b ? [a, b] : [b, a];
    const key = `${p} ${q}`;
    const have = cut.get(key);
    if (have !== undefined) return have;
    const u = (plane - z(p)) / (z(q) - z(p));
    const mix = (list: number[], width: number) => {
      for (let k = 0; k < width; k++)
        list.push(list[p * width + k] + (list[q * width + k] - list[p * width + k]) * u);
    };
    const made = positions.length / 3;
    mix(positions, 3);
    positions[made * 3 + 2] = plane;
    mix(normals, 3);
    if (uvs) mix(uvs, 2);
    if (colors) mix(colors, 3);
    cut.set(key, made);
    return made;
  };
  let groups = mesh.groups.map((g) => ({
    material: g.material,
    faces: [...mesh.indices.subarray(g.start, g.start + g.count)],
  }));
  for (const plane of planes) {
    cut.clear();
    groups = groups.map(({ material, faces }) => {
      const out: number[] = [];
      for (let i = 0; i < faces.length; i += 3) {
        const v = [faces[i], faces[i + 1], faces[i + 2]];
        const side = v.map((n) => (z(n) > plane + hair ? 1 : z(n) < plane - hair ? -1 : 0));
        if (!side.includes(1) || !side.includes(-1)) {
          out.push(...v);
          continue;
        }
        // The ring of corners with the crossings put in between, parted at the plane.
        const [low, high]: [number[], number[]] = [[], []];
        for (let k = 0; k < 3; k++) {
          const m = (k + 1) % 3;
          if (side[k] <= 0) low.push(v[k]);
          if (side[k] >= 0) high.push(v[k]);
          if (side[k] * side[m] < 0) {
            const c = crossing(v[k], v[m], plane);
            low.push(c);
            high.push(c);
          }
        }
        for (const ring of [low, high])
          for (let k = 1; k + 1 < ring.length; k++) out.push(ring[0], ring[k], ring[k + 1]);
      }
      return { material, faces: out };
    });
  }
  const indices: number[] = [];
  const parts = groups.map(({ material, faces }) => {
    const start = indices.length;
    for (const f of faces) indices.push(f);
    return { start, count: faces.length, material };
  });
  return {
    positions: Float64Array.from(positions),
    normals: Float64Array.from(normals),
    ...(uvs && { uvs: Float32Array.from(uvs) }),
    ...(colors && { colors: Float32Array.from(colors) }),
    indices: Uint32Array.from(indices),
    groups: parts,
  };
}
