import type { Vec3 } from '../../math/vec3';
import { plainMaterial } from '../material';
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
  const count = (of: (g: Grid) => number) => grids.reduce((sum, g) => sum + of(g), 0);
  const vertices = count((g) => (g.columns + 1) * (g.rows + 1));
  const positions = new Float64Array(vertices * 3);
  const normals = new Float64Array(vertices * 3);
  const uvs = new Float32Array(vertices * 2);
  const indices = new Uint32Array(count((g) => g.columns * g.rows) * 6);
  let known = true;
  let vertex = 0;
  let index = 0;
  for (const { columns, rows, at, turned } of grids)
    for (let j = 0; j <= rows; j++)
      for (let i = 0; i <= columns; i++) {
        const { position, normal } = at(i / columns, j / rows);
        positions.set(position, vertex * 3);
        if (normal) normals.set(normal, vertex * 3);
        else known = false;
        if (!normal) normals[vertex * 3 + 1] = 1;
        uvs[vertex * 2] = i / columns;
        uvs[vertex * 2 + 1] = j / rows;
        const a = vertex++;
        if (i === columns || j === rows) continue;
        const [b, c, d] = [a + 1, a + columns + 1, a + columns + 2];
        indices.set(turned ? [a, c, b, b, c, d] : [a, b, c, b, d, c], index);
        index += 6;
      }
  // Before the faces are looked at all are alike: a seam then joins by place alone.
  const even = new Float64Array(positions.length);
  const n = known ? normals : faceNormals(positions, indices, sharedNormals(positions, even), normals);
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(n),
    uvs,
    indices,
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [plainMaterial('plain', color, true)],
  };
}
