import type { Sliced } from '../../mesh/slice';
import type { Physics } from './physics';

/** What of a prop strikes: convex parts, each as the corners of its hull. In the prop's own space, metres. */

/** A mesh that fills less of its hull than this is hollow. */
const HOLLOW = 0.62;
/** Cells across the longest side when a hollow thing is taken apart, and most parts of it. */
const CELLS = 48;
const MOST_PARTS = 24;

export type Parts = Float32Array[];

const kept = new WeakMap<Sliced, Map<string, Parts>>();

/**
 * The convex parts of a mesh, kept for the next time.
 * @param shapes "hulls": one; "parts": as many as follow its hollows; "auto": one, unless it is hollow
 */
export function partsOf(physics: Physics, mesh: Sliced, shapes: 'auto' | 'hulls' | 'parts'): Parts {
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = new Map()));
  let made = have.get(shapes);
  if (!made) have.set(shapes, (made = makeParts(physics, mesh, shapes)));
  return made;
}

function makeParts(physics: Physics, mesh: Sliced, shapes: 'auto' | 'hulls' | 'parts'): Parts {
  const positions = Float32Array.from(mesh.positions);
  const hull = physics.ColliderDesc.convexHull(positions);
  const corners = hull ? verticesOf(hull.shape) : boxCorners(positions);
  const whole = [corners];
  if (shapes === 'hulls' || !hull) return whole;
  if (shapes === 'auto' && filled(physics, mesh, corners) >= HOLLOW) return whole;
  const made = physics.ColliderDesc.convexDecomposition(positions, mesh.indices, {
    concavity: 0.01,
    resolution: CELLS,
    maxConvexHulls: MOST_PARTS,
  });
  const parts = made ? (made.shape as unknown as { shapes: unknown[] }).shapes.map(verticesOf) : [];
  return parts.length > 0 ? parts : whole;
}

const verticesOf = (shape: unknown): Float32Array => (shape as { vertices: Float32Array }).vertices;

/** How much of its hull a mesh fills, 0–1. What is open counts by the faces that it has. */
function filled(physics: Physics, { positions: p, indices }: Sliced, corners: Float32Array): number {
  let six = 0;
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
    six +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  const world = new physics.World({ x: 0, y: 0, z: 0 });
  const desc = physics.ColliderDesc.convexHull(corners);
  const volume = desc ? world.createCollider(desc.setDensity(1)).mass() : 0;
  world.free();
  return volume > 0 ? Math.abs(six) / 6 / volume : 1;
}

/** For what has no volume, a sheet of paper: the corners of its box, made a little thick. */
function boxCorners(positions: Float32Array): Float32Array {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    low[i % 3] = Math.min(low[i % 3], positions[i]);
    high[i % 3] = Math.max(high[i % 3], positions[i]);
  }
  const thick = Math.max(1e-3, ...low.map((l, k) => high[k] - l)) * 0.01;
  return Float32Array.from({ length: 24 }, (_, i) => {
    const [corner, k] = [Math.floor(i / 3), i % 3];
    return (corner >> k) & 1 ? Math.max(high[k], low[k] + thick) : low[k];
  });
}
