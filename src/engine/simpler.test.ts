import { builtMesh, BUILT } from '@/demo/library';
import { meshBounds, type Mesh } from '@/core/mesh/mesh';
import { simplerMesh } from './simpler';

/** Bounds of the vertices that triangles use. */
const reach = ({ positions }: Mesh, indices: ArrayLike<number>) =>
  [0, 1, 2].map((a) => {
    const along = Array.from(indices, (v) => positions[v * 3 + a]);
    return [Math.min(...along), Math.max(...along)];
  });

test.each(BUILT.map((b) => b.name))(
  '%s: fewer triangles, about as large, of the same materials',
  async (name) => {
    const mesh = builtMesh(name)!;
    const { indices, groups } = await simplerMesh(mesh);
    const before = mesh.indices.length / 3;
    expect(indices.length).toBeGreaterThan(0);
    expect(indices.length / 3).toBeLessThanOrEqual(before);
    if (before > 200) expect(indices.length / 3).toBeLessThan(before / 2);
    expect(groups.map((g) => g.material)).toEqual(mesh.groups.map((g) => g.material));
    expect(groups.reduce((n, g) => n + g.count, 0)).toBe(indices.length);
    const { min, max } = meshBounds(mesh);
    const extent = Math.max(...max.map((v, a) => v - min[a]));
    reach(mesh, indices).forEach(([low, high], a) => {
      expect(low - min[a]).toBeLessThan(0.17 * extent);
      expect(max[a] - high).toBeLessThan(0.17 * extent);
    });
  },
);
