import { isMirroring } from '../math/affine';
import type { Mesh } from './mesh';

/** A mesh where it stands. */
export interface PlacedMesh {
  mesh: Mesh;
  /** From its own space to that of all, column-major 4×4; one that mirrors turns the faces over. */
  matrix: Float64Array;
  /** Linear red, green, blue that its colours are multiplied with. */
  tint?: ArrayLike<number>;
  /** Id of the material made by hand that it wears. */
  wears: string | undefined;
  /** Whose it is: those of one have one look each of its materials, whatever they wear. */
  of: string;
}

/** Placed meshes as one, in the space that their matrices lead to. */
export function mergedMeshes(parts: readonly PlacedMesh[]): Mesh {
  const vertices = parts.reduce((n, { mesh }) => n + mesh.positions.length / 3, 0);
  const corners = parts.reduce((n, { mesh }) => n + mesh.indices.length, 0);
  const coloured = parts.some(({ mesh, tint }) => mesh.colors || tint);
  const mapped = parts.every(({ mesh }) => mesh.uvs);
  const out: Mesh = {
    positions: new Float32Array(vertices * 3),
    normals: new Float32Array(vertices * 3),
    ...(coloured && { colors: new Float32Array(vertices * 3).fill(1) }),
    ...(mapped && { uvs: new Float32Array(vertices * 2) }),
    indices: new Uint32Array(corners),
    groups: [],
    materials: [],
  };
  const materials = new Map<string, number>();
  let [v, c] = [0, 0];
  for (const { mesh, matrix: m, tint, wears, of } of parts) {
    const count = mesh.positions.length / 3;
    writeVertices(mesh, m, out, v);
    if (out.colors) {
      if (mesh.colors) out.colors.set(mesh.colors, v * 3);
      if (tint) for (let i = v * 3; i < (v + count) * 3; i++) out.colors[i] *= tint[i % 3];
    }
    if (out.uvs) out.uvs.set(mesh.uvs!, v * 2);
    const turned = isMirroring(m, 0);
    for (let i = 0; i < mesh.indices.length; i += 3) {
      out.indices[c + i] = mesh.indices[i] + v;
      out.indices[c + i + 1] = mesh.indices[i + (turned ? 2 : 1)] + v;
      out.indices[c + i + 2] = mesh.indices[i + (turned ? 1 : 2)] + v;
    }
    for (const g of mesh.groups) {
      const material = mesh.materials[g.material];
      const key = `${of} ${g.material}`;
      let at = materials.get(key);
      if (at === undefined) {
        materials.set(key, (at = out.materials.length));
        out.materials.push(wears === undefined ? material : { ...material, wears });
      }
      out.groups.push({ start: c + g.start, count: g.count, material: at });
    }
    v += count;
    c += mesh.indices.length;
  }
  return out;
}

/** Positions by the map, normals by its cofactors: square to what they were square to. */
function writeVertices({ positions: p, normals: n }: Mesh, m: Float64Array, out: Mesh, at: number): void {
  const side = isMirroring(m, 0) ? -1 : 1;
  const cofactor = (a: number, b: number, r: number, s: number) =>
    (m[a + r] * m[b + s] - m[a + s] * m[b + r]) * side;
  const k = [
    [cofactor(4, 8, 1, 2), cofactor(4, 8, 2, 0), cofactor(4, 8, 0, 1)],
    [cofactor(8, 0, 1, 2), cofactor(8, 0, 2, 0), cofactor(8, 0, 0, 1)],
    [cofactor(0, 4, 1, 2), cofactor(0, 4, 2, 0), cofactor(0, 4, 0, 1)],
  ];
  for (let o = 0; o < p.length; o += 3) {
    const w = at * 3 + o;
    let square = 0;
    for (let r = 0; r < 3; r++) {
      out.positions[w + r] = m[r] * p[o] + m[4 + r] * p[o + 1] + m[8 + r] * p[o + 2] + m[12 + r];
      const turned = k[0][r] * n[o] + k[1][r] * n[o + 1] + k[2][r] * n[o + 2];
      out.normals[w + r] = turned;
      square += turned * turned;
    }
    const l = Math.sqrt(square) || 1;
    for (let r = 0; r < 3; r++) out.normals[w + r] /= l;
  }
}
