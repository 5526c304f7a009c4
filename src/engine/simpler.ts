import { MeshoptSimplifier } from 'meshoptimizer';
import { meshBounds, type Mesh } from '@/core/mesh/mesh';

/** Far things are drawn from fewer triangles, and so are shadows whose texels are coarse. */

/** Share of its triangles that is left of a mesh, and how few are left in any case. */
const LEFT = 0.15;
const LEAST = 12;
/** How far from the mesh what is left may lie, as a share of its extent. */
const OFF = 0.08;

/** What of a mesh its triangles are. */
export type Shape = Pick<Mesh, 'positions' | 'indices' | 'groups'>;

/** Some triangles between the vertices of a mesh, by its groups. */
export interface Simpler extends Pick<Mesh, 'indices' | 'groups'> {
  /** How far from the mesh they lie at most, by the errors of what was collapsed, in its units. */
  off: number;
}

/**
 * A mesh in about a seventh of its triangles, in the same vertices and materials: edges are collapsed by quadric errors
 * (Garland & Heckbert 1997), those between faces of different normals and colours too.
 * @param within in as few triangles as lie so near to it, in its units
 */
export async function simplerMesh(shape: Shape, within?: number): Promise<Simpler> {
  const { positions, indices, groups } = shape;
  await MeshoptSimplifier.ready;
  let off = 0;
  const scale = MeshoptSimplifier.getScale(positions, 3);
  const parts = groups.map(({ start, count }) => {
    const own = Uint32Array.from(indices.subarray(start, start + count));
    const wanted = Math.max(LEAST * 3, within ? 0 : Math.ceil((count * LEFT) / 3) * 3);
    if (count <= wanted) return own;
    const most = within ? within / scale : OFF;
    const [left, error] = MeshoptSimplifier.simplify(own, positions, 3, wanted, most, ['Permissive']);
    off = Math.max(off, error * scale);
    return left;
  });
  const out = new Uint32Array(parts.reduce((n, p) => n + p.length, 0));
  let start = 0;
  const of = parts.map((part, g) => {
    out.set(part, start);
    start += part.length;
    return { ...groups[g], start: start - part.length, count: part.length };
  });
  return reachesAsFar(shape, out, within) ? { indices: out, groups: of, off } : { indices, groups, off: 0 };
}

/** Whether some triangles of a mesh reach about as far as all of it: a thin end that is collapsed has no error. */
function reachesAsFar(mesh: Shape, indices: Uint32Array, within?: number): boolean {
  const { min, max } = meshBounds(mesh);
  const most = 2 * (within ?? OFF * Math.max(...max.map((v, a) => v - min[a])));
  return [0, 1, 2].every((a) => {
    let [low, high] = [Infinity, -Infinity];
    for (const v of indices) {
      low = Math.min(low, mesh.positions[v * 3 + a]);
      high = Math.max(high, mesh.positions[v * 3 + a]);
    }
    return low - min[a] <= most && max[a] - high <= most;
  });
}
