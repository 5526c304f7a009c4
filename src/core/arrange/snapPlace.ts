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

/** A snap point of a prop in its own space; null: it has none of that name. */
type Own = { position: Vec3; direction?: Vec3 } | null;

const FOOT: Own = { position: [0, 0, 0], direction: [0, 1, 0] };

function ownPoint(id: string, snap: string | null, prop: PropOf): Own {
  if (snap === null) return FOOT;
  const facts = prop(id);
  return (facts?.state === 'ready' && facts.snapPoints?.find((s) => s.name === snap)) || null;
}

/**
 * A snap point of what is placed in a row, by its name; null: its foot. Undefined where nothing stands there, or what
 * stands there has no such point.
 */
export const snapInRow = (
  p: Placements,
  row: number,
  snap: string | null,
  prop: PropOf,
): SnapPlace | undefined => snapFinder(p, snap, prop)(row);

/** {@link snapInRow} for many rows: what each prop has of that name is looked up once. */
export function snapFinder(
  p: Placements,
  snap: string | null,
  prop: PropOf,
): (row: number) => SnapPlace | undefined {
  const known: (Own | undefined)[] = [];
  return (row) => {
    const of = row < 0 ? -1 : p.prop[row];
    if (of < 0 || p.state[row] !== STATE.placed) return undefined;
    const own = (known[of] ??= ownPoint(p.props[of], snap, prop));
    if (!own) return undefined;
    const [o, q] = [row * 3, row * 4];
    const rotation: Quat = [p.rotation[q], p.rotation[q + 1], p.rotation[q + 2], p.rotation[q + 3]];
    const [x, y, z] = own.position;
    const at = quatRotate(rotation, [x * p.scale[o], y * p.scale[o + 1], z * p.scale[o + 2]]);
    const direction = own.direction ? turned(own.direction, p.scale, o, rotation) : null;
    return {
      position: [p.position[o] + at[0], p.position[o + 1] + at[1], p.position[o + 2] + at[2]],
      direction,
      rotation,
    };
  };
}

/** A direction of a prop's own space in the scene: square to what it was square to, however the prop is sized. */
function turned(direction: Vec3, scale: Float64Array, o: number, rotation: Quat): Vec3 | null {
  const x = direction[0] / (scale[o] || 1);
  const y = direction[1] / (scale[o + 1] || 1);
  const z = direction[2] / (scale[o + 2] || 1);
  const l = Math.sqrt(x * x + y * y + z * z);
  return l > 0 && Number.isFinite(l) ? quatRotate(rotation, [x / l, y / l, z / l]) : null;
}

/** The snap point of that name, of all that an arrangement has placed, that is nearest to a place. */
export function nearestSnap(
  p: Placements,
  snap: string | null,
  [x, y, z]: Vec3,
  prop: PropOf,
): SnapPlace | undefined {
  const find = snapFinder(p, snap, prop);
  let best: SnapPlace | undefined;
  let least = Infinity;
  for (let row = 0; row < p.count; row++) {
    const found = find(row);
    if (!found) continue;
    const [dx, dy, dz] = [found.position[0] - x, found.position[1] - y, found.position[2] - z];
    const d = dx * dx + dy * dy + dz * dz;
    if (d < least) [best, least] = [found, d];
  }
  return best;
}
