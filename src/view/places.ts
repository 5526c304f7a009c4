import { rowAtWay } from '@/core/arrange/inside';
import { STATE } from '@/core/arrange/result';
import { hasPoints } from '@/core/curve/schema';
import type { Bounds } from '@/core/mesh/mesh';
import type { Vec3 } from '@/core/math/vec3';
import { through } from '@/core/mesh/surface';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectedNodes, useSelection, type NodeRef, type SelectedSlots } from '@/store/selection';

/** Places in the scene that tell where a list of xyz reaches: every so many, and no more than a few thousand. */
function some(list: ArrayLike<number>, of: (at: Vec3) => Vec3 = (at) => at): Vec3[] {
  const step = Math.max(1, Math.floor(list.length / 3 / 4000)) * 3;
  const out: Vec3[] = [];
  for (let o = 0; o < list.length; o += step) out.push(of([list[o], list[o + 1], list[o + 2]]));
  return out;
}

/** Where what is selected is: slots and points before the nodes that they are of; none where nothing is. */
export function selectedPlaces(): Vec3[] {
  const { points, slots } = useSelection.getState();
  if (points) {
    const path = useDocument.getState().scene.paths.find((p) => p.id === points.path);
    const ids = new Set(points.ids);
    if (hasPoints(path)) return path.source.points.filter((p) => ids.has(p.id)).map((p) => p.position);
  }
  if (slots?.within) return [placeWithin(slots)].filter((at) => at !== null);
  if (slots) return propPlaces(slots.arrangement, new Set(slots.ids));
  return selectedNodes().flatMap(placesOf);
}

/** Where what is selected within a copy of a bundle stands; null where nothing is placed there. */
export function placeWithin({ arrangement, ids, within = [] }: SelectedSlots): Vec3 | null {
  const { inside, placements } = engine().state.result.arrangements.get(arrangement) ?? {};
  const row = inside && placements ? rowAtWay(inside, placements.slot.indexOf(ids[0]), within) : -1;
  if (row < 0) return null;
  const [x, y, z] = inside!.matrix.subarray(row * 16 + 12, row * 16 + 15);
  return [x, y, z];
}

/** Where the placed props of an arrangement stand, or those slots of it. */
function propPlaces(id: string, chosen: ReadonlySet<number> | null): Vec3[] {
  const p = engine().state.result.arrangements.get(id)?.placements;
  if (!p) return [];
  const rows = [...Array(p.count).keys()].filter((i) =>
    chosen ? chosen.has(p.slot[i]) : p.state[i] === STATE.placed,
  );
  return rows.map((i) => [p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
}

/** The eight corners of a box, xyz each. */
const cornersOf = ({ min, max }: Bounds): number[] =>
  Array.from({ length: 24 }, (_, i) => (((i / 3) >> (i % 3)) & 1 ? max : min)[i % 3]);

/** Where a node is: its placed props, or places along its lines or over its mesh. */
export function placesOf({ kind, id }: NodeRef): Vec3[] {
  const { paths, surfaces } = engine().state.result;
  if (kind === 'arrangement') return propPlaces(id, null);
  if (kind === 'path') return paths.get(id)?.strokes.flatMap((s) => some(s.position)) ?? [];
  const surface = kind === 'surface' ? surfaces.get(id) : undefined;
  if (!surface) return [];
  const places = surface.positions ?? (surface.box ? cornersOf(surface.box) : []);
  return some(places, (at) => through(surface.matrix, at));
}
