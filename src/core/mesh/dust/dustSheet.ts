import { plainMaterial } from '../material';
import { mergedMeshes, type PlacedMesh } from '../merged';
import { meshBounds, type Mesh } from '../mesh';
import type { DustSpec } from './dustSchema';
import { Highest, keptAway, type Heights } from './heights';
import { softened } from './soft';

/** More squares than this along a side are refused: they would take seconds at every change. */
const MOST_ALONG = 1000;
/** As many looks from a corner to those within its distance. */
const MOST_KEPT = 3e8;

/**
 * A sheet let down over placed meshes: a grid that is nowhere below any of them, in the scene.
 * @returns null where there is nothing to lie over; "fine" where it would be too fine to be worked out at once
 */
export function dustSheet(parts: readonly PlacedMesh[], spec: DustSpec): Mesh | null | 'fine' {
  const { cell, distance, beyond, softness } = spec;
  const placed = parts.filter((p) => p.mesh.indices.length > 0).map((p) => mergedMeshes([p]));
  if (placed.length === 0) return null;
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const mesh of placed) {
    const box = meshBounds(mesh);
    for (let a = 0; a < 3; a++) {
      min[a] = Math.min(min[a], box.min[a]);
      max[a] = Math.max(max[a], box.max[a]);
    }
  }
  // A square more on each side: what ends at the rim is held up there as well.
  const margin = beyond + distance + cell;
  const columns = Math.ceil((max[0] - min[0] + 2 * margin) / cell);
  const rows = Math.ceil((max[2] - min[2] + 2 * margin) / cell);
  const reach = Math.ceil(distance / cell);
  if (columns > MOST_ALONG || rows > MOST_ALONG || columns * rows * reach * reach > MOST_KEPT) return 'fine';
  const x = (min[0] + max[0] - columns * cell) / 2;
  const z = (min[2] + max[2] - rows * cell) / 2;
  const highest = new Highest(x, z, cell, columns, rows);
  for (const { positions, indices } of placed) highest.add(positions, indices);
  const floor = spec.floor ?? min[1];
  return gridOver(softened(keptAway(highest.corners(floor), distance), softness), spec.color);
}

/** The mesh of a field of heights: smooth normals, u along x and v along z. */
function gridOver({ x, z, cell, columns, rows, y }: Heights, color: string): Mesh {
  const width = columns + 1;
  const count = width * (rows + 1);
  const positions = new Float32Array(count * 3);
  const normals = new Float32Array(count * 3);
  const uvs = new Float32Array(count * 2);
  for (let v = 0; v <= rows; v++)
    for (let u = 0; u <= columns; u++) {
      const i = v * width + u;
      positions.set([x + u * cell, y[i], z + v * cell], i * 3);
      const [l, r] = [Math.max(0, u - 1), Math.min(columns, u + 1)];
      const [f, b] = [Math.max(0, v - 1), Math.min(rows, v + 1)];
      const dx = (y[v * width + r] - y[v * width + l]) / ((r - l) * cell);
      const dz = (y[b * width + u] - y[f * width + u]) / ((b - f) * cell);
      const long = Math.sqrt(dx * dx + dz * dz + 1);
      normals.set([-dx / long, 1 / long, -dz / long], i * 3);
      uvs.set([u / columns, v / rows], i * 2);
    }
  const indices = new Uint32Array(columns * rows * 6);
  let o = 0;
  for (let v = 0; v < rows; v++)
    for (let u = 0; u < columns; u++) {
      const a = v * width + u;
      indices.set([a, a + width, a + 1, a + 1, a + width, a + width + 1], o);
      o += 6;
    }
  return {
    positions,
    normals,
    uvs,
    indices,
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [plainMaterial('Dust sheet', color, true)],
  };
}
