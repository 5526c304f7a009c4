import type { Vec3 } from '../../math/vec3';
import { windingAt } from '../../mesh/crossing';
import { clumpHeight, clumpOffset, clumpSize } from '../../mesh/scatter/clumps';
import { evenInside, looseInside, volumeOf } from '../../mesh/scatter/volume';
import { through } from '../../mesh/surface';
import { triMeshBounds, type TriMesh } from '../../mesh/triMesh';
import type { SurfaceStates } from '../context';
import type { Density } from './density';
import { childSlot, slotOf } from './slots';
import { remembered } from './remember';
import type { Scatter } from './schema';
import { SiteList } from './sites';

/** Cubic metres inside a closed surface, as it stands in the scene. */
export const insideOf = ({ rest, size }: SurfaceStates): number =>
  Math.abs(volumeOf(rest)) * size * size * size;

/** Whether a mesh has a border, or a side with more than two faces: it has no inside for certain. */
export function isOpen(mesh: TriMesh): boolean {
  const { faces } = mesh.topology();
  for (let e = 1; e < faces.length; e += 2) if (faces[e] < 0) return true;
  return faces.length === 0;
}

/** Places inside a closed surface: inside the mesh itself, wherever it stands. A grid is rows, columns and levels. */
export function inVolume(
  { spread, seed }: Scatter,
  { rest, size, place }: SurfaceStates,
  { amount, number, distance }: Density,
): SiteList {
  const list = new SiteList(number);
  const bounds = triMeshBounds(rest);
  if (!bounds) return list;
  const tree = rest.tree();
  const inside = (p: Vec3) => windingAt(tree, ...p) !== 0;
  if (spread.how === 'grid') {
    const step = distance / size;
    const range = (a: number) => [Math.ceil(bounds.min[a] / step), Math.floor(bounds.max[a] / step)];
    const turned = (i: number) => ((i % 128) + 128) % 128;
    const [[x0, x1], [y0, y1], [z0, z1]] = [0, 1, 2].map(range);
    for (let y = y0; y <= y1; y++)
      for (let z = z0; z <= z1; z++)
        for (let x = x0; x <= x1; x++) {
          const p: Vec3 = [x * step, y * step, z * step];
          const key = (turned(y) * 128 + turned(z)) * 128 + turned(x);
          if (inside(p)) list.addFree(slotOf(key, 0, 0), through(place, p));
        }
    return list;
  }
  const own = 'distance' in amount ? { distance: amount.distance / size } : amount;
  const loose = spread.how === 'loose';
  const points = remembered([rest], JSON.stringify(['inside', loose, seed, loose ? number : own]), () =>
    loose ? looseInside(tree, bounds, seed, number) : evenInside(tree, bounds, seed, own),
  );
  for (let i = 0; i < points.count; i++) {
    const p = [...points.position.subarray(i * 3, i * 3 + 3)] as Vec3;
    const slot = slotOf(points.key[i], points.level[i], 0);
    if (spread.how !== 'clumps') {
      list.addFree(slot, through(place, p));
      continue;
    }
    for (let k = 0; k < clumpSize(spread, seed, slot); k++) {
      const one = childSlot(points.key[i], points.level[i], k);
      const [dx, dz] = clumpOffset(spread, seed, one);
      const dy = clumpHeight(spread, seed, one, Math.sqrt(dx * dx + dz * dz));
      const q: Vec3 = [p[0] + dx / size, p[1] + dy / size, p[2] + dz / size];
      if (inside(q)) list.addFree(one, through(place, q));
    }
  }
  return list;
}
