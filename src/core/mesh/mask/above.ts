import { firstHit, nearestPlace, noHit } from '../bvhQuery';
import type { TriMesh } from '../triMesh';
import { meshWithLines } from './lineMesh';
import type { MaskPlaces } from './places';

/** What stands above places, how far they are from outlines and from water, seen straight up and down. */

/** A hair above its own surface, so that a place is not covered by what it lies on. */
const HAIR = 1e-4;
/** Farther than any scene is high. */
const FAR = 4e6;

/** Metres up to the first thing above each place; `most` where there is none so near. */
export function coverHeights(
  { count, position }: MaskPlaces,
  things: readonly TriMesh[],
  most = Infinity,
): Float64Array {
  const hit = noHit();
  return Float64Array.from({ length: count }, (_, i) => {
    const [x, y, z] = position.subarray(i * 3, i * 3 + 3);
    return things.reduce(
      (least, { tree }) => (firstHit(tree(), x, y + HAIR, z, 0, 1, 0, 0, least, hit) ? hit.t : least),
      most,
    );
  });
}

const flat = new WeakMap<TriMesh, TriMesh>();

/** The shadow of a mesh under a light straight above: its triangles at height 0, of upright ones their longest side. */
export function flattened(mesh: TriMesh): TriMesh {
  let have = flat.get(mesh);
  if (!have) {
    const positions = mesh.positions.slice();
    for (let o = 1; o < positions.length; o += 3) positions[o] = 0;
    const indices = mesh.indices.slice();
    for (let f = 0; f < indices.length; f += 3) flatten(positions, indices, f);
    flat.set(mesh, (have = meshWithLines(positions, indices)));
  }
  return have;
}

/** Makes a triangle that has no width from above the piece of a line that it is seen as. */
function flatten(p: Float64Array, indices: Uint32Array, f: number): void {
  const at = (k: number) => indices[f + (k % 3)];
  const long = [0, 1, 2].map((k) => {
    const [x, z] = [p[at(k + 1) * 3] - p[at(k) * 3], p[at(k + 1) * 3 + 2] - p[at(k) * 3 + 2]];
    return { x, z, square: x * x + z * z, from: at(k), to: at(k + 1) };
  });
  const longest = long.reduce((a, b) => (b.square > a.square ? b : a));
  const area = Math.abs(long[0].x * long[1].z - long[0].z * long[1].x);
  if (area > 1e-9 * longest.square) return;
  indices[f] = longest.from;
  indices[f + 1] = indices[f + 2] = longest.to;
}

/** Metres, as seen from above, from each place to what things cover; 0 inside of that. @param most as in {@link distancesTo} */
export const outlineDistances = (
  places: MaskPlaces,
  things: readonly TriMesh[],
  most = Infinity,
): Float64Array => distancesTo(places, things.map(flattened), true, most);

/**
 * Metres from each place to the nearest place of some meshes; Infinity where there are none.
 * @param fromAbove the meshes are flat at height 0, and so are the places taken to be
 * @param most metres: what is farther is only known to be so, and is so far
 */
export function distancesTo(
  { count, position }: MaskPlaces,
  meshes: readonly TriMesh[],
  fromAbove: boolean,
  most = Infinity,
): Float64Array {
  const hit = noHit();
  return Float64Array.from({ length: count }, (_, i) => {
    const [x, y, z] = position.subarray(i * 3, i * 3 + 3);
    return meshes.reduce(
      (least, { tree }) => (nearestPlace(tree(), x, fromAbove ? 0 : y, z, least, hit) ? hit.t : least),
      most,
    );
  });
}

/** Metres of each place above the water straight below or above it: the highest there; Infinity where there is none. */
export function aboveWater({ count, position }: MaskPlaces, water: TriMesh | number): Float64Array {
  const hit = noHit();
  return Float64Array.from({ length: count }, (_, i) => {
    const [x, y, z] = position.subarray(i * 3, i * 3 + 3);
    if (typeof water === 'number') return y - water;
    return firstHit(water.tree(), x, FAR, z, 0, -1, 0, 0, Infinity, hit) ? y - (FAR - hit.t) : Infinity;
  });
}
