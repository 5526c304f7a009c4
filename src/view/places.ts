import { rowAtWay } from '@/core/arrange/inside';
import { STATE, type Placements } from '@/core/arrange/result';
import { hasPoints } from '@/core/curve/schema';
import type { Bounds } from '@/core/mesh/mesh';
import { quatRotate, type Quat } from '@/core/math/quat';
import { add, type Vec3 } from '@/core/math/vec3';
import { through } from '@/core/mesh/surface';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectedNodes, useSelection, type NodeRef, type SelectedSlots } from '@/store/selection';
import { boxOf } from './fit';
import { lookAt } from './viewState';

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

/** The placed props of an arrangement, or those slots of it. */
function rowsOf(id: string, chosen: ReadonlySet<number> | null): { p: Placements; rows: number[] } | null {
  const p = engine().state.result.arrangements.get(id)?.placements;
  if (!p) return null;
  const rows = [...Array(p.count).keys()].filter((i) =>
    chosen ? chosen.has(p.slot[i]) : p.state[i] === STATE.placed,
  );
  return { p, rows };
}

const footOf = ({ position }: Placements, i: number): Vec3 => [
  position[i * 3],
  position[i * 3 + 1],
  position[i * 3 + 2],
];

/** Where the placed props of an arrangement stand, or those slots of it. */
function propPlaces(id: string, chosen: ReadonlySet<number> | null): Vec3[] {
  const found = rowsOf(id, chosen);
  return found ? found.rows.map((i) => footOf(found.p, i)) : [];
}

/** As far as those props reach: the corners of their boxes; of thousands, of every so many. */
function propCorners(id: string, chosen: ReadonlySet<number> | null): Vec3[] {
  const { p, rows } = rowsOf(id, chosen) ?? { rows: [] };
  if (!p) return [];
  const { propBounds } = engine().state.result;
  const step = Math.ceil(rows.length / 2000) || 1;
  return rows
    .filter((_, n) => n % step === 0)
    .flatMap((i): Vec3[] => {
      const foot = footOf(p, i);
      const box = propBounds[p.props[p.prop[i]] ?? ''];
      if (!box) return [foot];
      const turn = [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
      const size = p.scale.subarray(i * 3, i * 3 + 3);
      return some(cornersOf(box), ([x, y, z]) =>
        add(foot, quatRotate(turn, [x * size[0], y * size[1], z * size[2]])),
      );
    });
}

/** Of what is looked at, the share of its size that is seen around it: of itself, and of what it stands among. */
const AIR = { itself: 0.1, among: 1 };

function lookWith(air: number): void {
  const { points, slots } = useSelection.getState();
  if (points || slots?.within) return lookAt(selectedPlaces());
  const seen = slots
    ? propCorners(slots.arrangement, new Set(slots.ids))
    : selectedNodes().flatMap((node) =>
        node.kind === 'arrangement' ? propCorners(node.id, null) : placesOf(node),
      );
  if (seen.length === 0) return;
  const { min, max } = boxOf(seen);
  const size = Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
  lookAt(seen, size > 0 ? air * size : undefined);
}

/**
 * Looks at what is selected, as far as it reaches. Points, and what stands within a copy of a bundle, are known by their
 * places alone.
 */
export const lookAtSelected = (): void => lookWith(AIR.itself);
/** The same from further away, for what is wrong between it and what is beside it. */
export const lookAroundSelected = (): void => lookWith(AIR.among);

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
