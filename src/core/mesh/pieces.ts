import { planesOf } from './bend';
import { sliceAlong, type Sliced } from './slice';

/** Into how many pieces of equal length a mesh is sliced across two of its axes. */
export interface Pieces {
  x: number;
  z: number;
}

const kept = new WeakMap<Sliced, Map<string, Sliced>>();

/** The mesh sliced across its own x and z into pieces of equal length, kept for the next time. */
export function inPieces(mesh: Sliced, { x, z }: Pieces): Sliced {
  if (x <= 1 && z <= 1) return mesh;
  const key = `${x} ${z}`;
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = new Map()));
  let made = have.get(key);
  if (!made) {
    const across = (axis: 0 | 2, pieces: number) => {
      const [low, high] = reachAlong(mesh, axis);
      return planesOf(low, high, Math.max(1, pieces));
    };
    have.set(key, (made = sliceAlong(sliceAlong(mesh, 0, across(0, x)), 2, across(2, z))));
  }
  return made;
}

/** Least and greatest of a mesh's vertices along an axis. */
function reachAlong({ positions }: Sliced, axis: 0 | 1 | 2): [low: number, high: number] {
  let low = Infinity;
  let high = -Infinity;
  for (let o = axis; o < positions.length; o += 3) {
    low = Math.min(low, positions[o]);
    high = Math.max(high, positions[o]);
  }
  return [low, high];
}
