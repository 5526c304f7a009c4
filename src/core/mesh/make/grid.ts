import { linearColor } from '../../math/color';
import { normalize, type Vec3 } from '../../math/vec3';
import type { Mesh } from '../mesh';
import { faceNormals, sharedNormals } from '../normals';

/** A grid of squares laid over u and v, 0 to 1 each. */
export interface Grid {
  columns: number;
  rows: number;
  /** The place at u, v; its normal where it is known, else it comes from the faces. */
  at: (u: number, v: number) => { position: Vec3; normal?: Vec3 };
  /** Faces look to the other side. */
  turned?: boolean;
}

/** Grids as one mesh in one colour. Faces run counter-clockwise seen from where u goes right and v goes up. */
export function gridMesh(grids: Grid[], color: string): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  let known = true;
  for (const { columns, rows, at, turned } of grids) {
    const first = positions.length / 3;
    for (let j = 0; j <= rows; j++)
      for (let i = 0; i <= columns; i++) {
        const { position, normal } = at(i / columns, j / rows);
        positions.push(...position);
        normals.push(...(normal ?? [0, 1, 0]));
        if (!normal) known = false;
        uvs.push(i / columns, j / rows);
        if (i === columns || j === rows) continue;
        const a = first + j * (columns + 1) + i;
        const [b, c, d] = [a + 1, a + columns + 1, a + columns + 2];
        indices.push(...(turned ? [a, c, b, b, c, d] : [a, b, c, b, d, c]));
      }
  }
  const p = Float64Array.from(positions);
  const i = Uint32Array.from(indices);
  // Before the faces are looked at all are alike: a seam then joins by place alone.
  const even = new Float64Array(positions.length);
  const n = known ? normals : faceNormals(p, i, sharedNormals(positions, even), normals);
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(n),
    uvs: Float32Array.from(uvs),
    indices: i,
    groups: [{ start: 0, count: i.length, material: 0 }],
    materials: [
      {
        name: 'plain',
        color: [...linearColor(color), 1] as [number, number, number, number],
        metallic: 0,
        roughness: 0.9,
        emissive: [0, 0, 0],
        doubleSided: true,
      },
    ],
  };
}

/** The direction of a vector, up where it has none. */
export const unit = (v: Vec3): Vec3 => normalize(v, [0, 1, 0]);
