import { planesOf } from './bend';
import { sliceAlong, type Sliced } from './slice';

/** Into how many pieces of equal length a mesh is sliced across two of its axes. */
export interface Pieces {
  x: number;
  z: number;
}

const kept = new WeakMap<Sliced, Map<string, Sliced>>();

/**
 * The mesh sliced across its own x and z into pieces of equal length, kept for the next time; not along an axis where none
 * of its faces is longer than a piece as it is: a rope of short rings bends well enough by itself.
 */
export function inPieces(mesh: Sliced, { x, z }: Pieces): Sliced {
  if (x <= 1 && z <= 1) return mesh;
  const key = `${x} ${z}`;
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = new Map()));
  let made = have.get(key);
  if (!made) {
    const across = (axis: 0 | 2, pieces: number) => {
      const [low, high] = reachAlong(mesh, axis);
      if (longestFace(mesh, axis) <= (high - low) / pieces) return [];
      return planesOf(low, high, Math.max(1, pieces));
    };
    have.set(key, (made = sliceAlong(sliceAlong(mesh, 0, across(0, x)), 2, across(2, z))));
  }
  return made;
}

/** How far the face reaches along an axis that reaches farthest. */
function longestFace({ positions: p, indices }: Sliced, axis: 0 | 1 | 2): number {
  let most = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const a = p[indices[i] * 3 + axis];
    const b = p[indices[i + 1] * 3 + axis];
    const c = p[indices[i + 2] * 3 + axis];
    most = Math.max(most, Math.max(a, b, c) - Math.min(a, b, c));
  }
  return most;
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
