import { buildBvh } from '../bvh';
import { nearestPlace, noHit } from '../bvhQuery';
import { isInside } from '../crossing';
import { meshBounds, type Mesh } from '../mesh';
import { faceNormals } from '../normals';
import type { Kernel } from './kernel';

/** More cells than this are refused: each is a search of its own. */
const MOST_CELLS = 2_000_000;

/**
 * A mesh made anew as the surface of what is inside it, over a grid of cells: closed, whatever it was. A place is inside
 * where rays to two sides both meet faces an odd number of times.
 * @param size metres a cell @returns null where there would be more than two million cells
 */
export function voxelled(kernel: Kernel, mesh: Mesh, size: number): Mesh | null {
  const { min, max } = meshBounds(mesh);
  const cells = [0, 1, 2].reduce((n, a) => n * ((max[a] - min[a]) / size + 4), 1);
  // The grid is one of cubes with another between.
  if (!(cells * 2 <= MOST_CELLS)) return null;
  const tree = buildBvh(Float64Array.from(mesh.positions), mesh.indices);
  const hit = noHit();
  const solid = kernel.Manifold.levelSet(
    ([x, y, z]) => {
      nearestPlace(tree, x, y, z, Infinity, hit);
      return isInside(tree, x, y, z) ? hit.t : -hit.t;
    },
    { min: min.map((v) => v - size * 1.5) as never, max: max.map((v) => v + size * 1.5) as never },
    size,
  );
  const { vertProperties, numProp, triVerts } = solid.getMesh();
  solid.delete();
  const count = vertProperties.length / numProp;
  const positions = new Float32Array(count * 3);
  for (let v = 0; v < count; v++)
    for (let k = 0; k < 3; k++) positions[v * 3 + k] = vertProperties[v * numProp + k];
  const own = Uint32Array.from({ length: count }, (_, v) => v);
  const normals = faceNormals(Float64Array.from(positions), triVerts, own, new Float64Array(count * 3));
  return {
    positions,
    normals: Float32Array.from(normals),
    indices: triVerts,
    groups: [{ start: 0, count: triVerts.length, material: 0 }],
    materials: [mesh.materials[0]],
  };
}
