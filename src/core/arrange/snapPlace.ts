import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { PropFacts } from './context';
import { STATE, type Placements } from './result';

/** Where a snap point of a placed prop is now. */
export interface SnapPlace {
  position: Vec3;
  /** Which way it points, of unit length; null where it has none. */
  direction: Vec3 | null;
  /** How what it belongs to is turned. */
  rotation: Quat;
}

type PropOf = (id: string) => PropFacts | undefined;

/**
 * A snap point of what is placed in a row, by its name; null: its foot. Undefined where nothing stands there, or what
 * stands there has no such point.
 */
export function snapInRow(
  p: Placements,
  row: number,
  snap: string | null,
  prop: PropOf,
): SnapPlace | undefined {
  if (row < 0 || p.state[row] !== STATE.placed || p.prop[row] < 0) return undefined;
  const [x, y, z] = p.position.subarray(row * 3, row * 3 + 3);
  const rotation = [...p.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  if (snap === null) return { position: [x, y, z], direction: quatRotate(rotation, [0, 1, 0]), rotation };
  const facts = prop(p.props[p.prop[row]]);
  const point = facts?.state === 'ready' ? facts.snapPoints?.find((s) => s.name === snap) : undefined;
  if (!point) return undefined;
  const scale = p.scale.subarray(row * 3, row * 3 + 3);
  const at = quatRotate(rotation, point.position.map((v, a) => v * scale[a]) as Vec3);
  const direction = turned(point.direction, scale, rotation);
  return { position: [x + at[0], y + at[1], z + at[2]], direction, rotation };
}

/** A direction of a prop's own space in the scene: square to what it was square to, however the prop is sized. */
function turned(direction: Vec3 | undefined, scale: Float64Array, rotation: Quat): Vec3 | null {
  if (!direction) return null;
  const own = direction.map((v, a) => v / (scale[a] || 1)) as Vec3;
  const l = Math.sqrt(own[0] * own[0] + own[1] * own[1] + own[2] * own[2]);
  return l > 0 && Number.isFinite(l) ? quatRotate(rotation, own.map((v) => v / l) as Vec3) : null;
}

/** The snap point of that name, of all that an arrangement has placed, that is nearest to a place. */
export function nearestSnap(
  p: Placements,
  snap: string | null,
  [x, y, z]: Vec3,
  prop: PropOf,
): SnapPlace | undefined {
  let best: SnapPlace | undefined;
  let least = Infinity;
  for (let row = 0; row < p.count; row++) {
    const found = snapInRow(p, row, snap, prop);
    if (!found) continue;
    const [dx, dy, dz] = [found.position[0] - x, found.position[1] - y, found.position[2] - z];
    const d = dx * dx + dy * dy + dz * dz;
    if (d < least) [best, least] = [found, d];
  }
  return best;
}
