import type { Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../../mesh/bvhQuery';
import { windingAt } from '../../mesh/crossing';
import { areasOf } from '../../mesh/scatter/areas';
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

/**
 * Cubic metres inside a closed surface, as it stands in the scene; of a shell in it about as much as its area says.
 * @param shell how far in from the surface it goes, metres; null: all of the inside
 */
export function insideOf({ rest, size }: SurfaceStates, shell: number | null): number {
  const all = Math.abs(volumeOf(rest)) * size * size * size;
  return shell === null ? all : Math.min(all, areasOf(rest).total * size * size * shell);
}

const hit = noHit();

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
  density: Density,
  shell: number | null,
): SiteList {
  const { number, distance } = density;
  const list = new SiteList(number);
  const bounds = triMeshBounds(rest);
  if (!bounds) return list;
  const tree = rest.tree();
  const within = shell === null ? Infinity : shell / size;
  const inside = (p: Vec3) => windingAt(tree, ...p) !== 0 && isNear(p);
  const isNear = ([x, y, z]: Vec3) => within === Infinity || nearestPlace(tree, x, y, z, within, hit);
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
  const loose = spread.how === 'loose';
  // What of a shell is asked for is a part of what all of the inside would hold.
  const part =
    shell === null
      ? 1
      : insideOf({ rest, size } as SurfaceStates, null) / insideOf({ rest, size } as SurfaceStates, shell);
  const whole = Math.round(number * part);
  const { amount } = density;
  const own = 'distance' in amount ? { distance: amount.distance / size } : { number: whole };
  const points = remembered([rest], JSON.stringify(['inside', loose, seed, loose ? whole : own]), () =>
    loose ? looseInside(tree, bounds, seed, whole) : evenInside(tree, bounds, seed, own),
  );
  for (let i = 0; i < points.count; i++) {
    const p = [...points.position.subarray(i * 3, i * 3 + 3)] as Vec3;
    if (!isNear(p)) continue;
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
