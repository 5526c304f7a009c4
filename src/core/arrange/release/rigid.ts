import { quatFromUpFront, quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { cross, normalize, sub, type Vec3 } from '../../math/vec3';
import type { TriMesh } from '../../mesh/triMesh';

/** A mesh counts as moved and turned as a whole while no vertex is farther off, as a share of its reach. */
const OFF = 1e-6;

/**
 * How a mesh was moved and turned as a whole to come to another state of it; null where its shape has changed. Places
 * are told as seen from `origin`.
 */
export function rigidBetween(
  from: Pick<TriMesh, 'positions'>,
  to: Pick<TriMesh, 'positions'>,
  origin: Vec3,
): {
  position: { x: number; y: number; z: number };
  rotation: { x: number; y: number; z: number; w: number };
} | null {
  const corners = frameOf(from.positions);
  if (!corners) return null;
  const [a, b] = [from, to].map(({ positions }) => frameAt(positions, corners));
  if (!a || !b) return null;
  const turn = quatMultiply(b, [-a[0], -a[1], -a[2], a[3]]);
  const first = corners[0];
  const [p, q] = [at(from.positions, first), at(to.positions, first)];
  const reach = Math.sqrt(corners[3]);
  for (let v = 0; v * 3 < from.positions.length; v++) {
    const moved = quatRotate(turn, sub(at(from.positions, v), p));
    const there = sub(at(to.positions, v), q);
    if (moved.some((m, k) => Math.abs(m - there[k]) > OFF * reach)) return null;
  }
  const base = quatRotate(turn, sub(p, origin));
  const [x, y, z] = sub(sub(q, origin), base);
  return { position: { x, y, z }, rotation: { x: turn[0], y: turn[1], z: turn[2], w: turn[3] } };
}

const at = (p: ArrayLike<number>, v: number): Vec3 => [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
const squared = ([x, y, z]: Vec3) => x * x + y * y + z * z;

/** Three vertices that make a good triangle, and the square of the farthest that one is from the first. */
function frameOf(p: Float64Array): [number, number, number, number] | null {
  const n = p.length / 3;
  const first = at(p, 0);
  const farthest = (of: (v: number) => number) => {
    let [best, most] = [-1, 0];
    for (let v = 1; v < n; v++) if (of(v) > most) [best, most] = [v, of(v)];
    return [best, most] as const;
  };
  const [b, reach] = farthest((v) => squared(sub(at(p, v), first)));
  if (b < 0) return null;
  const side = sub(at(p, b), first);
  const [c, area] = farthest((v) => squared(cross(side, sub(at(p, v), first))));
  return c < 0 || area < 1e-8 * reach * reach ? null : [0, b, c, reach];
}

function frameAt(p: Float64Array, [a, b, c]: readonly number[]): Quat | null {
  const side = sub(at(p, b), at(p, a));
  const up = cross(side, sub(at(p, c), at(p, a)));
  return squared(up) > 0 ? quatFromUpFront(normalize(up), normalize(side)) : null;
}
