import { cos, hypot, sin } from '../../math/portable';
import type { Vec3 } from '../../math/vec3';
import { sameRows } from '../../mesh/sameRows';
import type { Sliced } from '../../mesh/slice';
import type { PosedMesh } from './posable';

/**
 * The wheels of a prop: parts of its mesh that lie round a snap point whose name begins with “wheel”. Each turns about its
 * axle, from left to right, by the way that the prop makes on the ground.
 */

/** The name under which they are played, like an animation. */
export const WHEELS = 'Wheels';

interface Wheel {
  centre: Vec3;
  /** Metres: as high as its centre stands over the foot. */
  radius: number;
  /** Its vertices. */
  vertices: Uint32Array;
}

/** Parts may stand out over the rim by this share of the radius. */
const RIM = 1.03;

/** Whether a snap point stands for the middle of a wheel: its name begins so. */
export const isWheel = ({ name }: { name: string }): boolean => /^wheel/i.test(name);

/**
 * @param mesh in the prop's own space: X left, Y up, Z front, its foot at the origin
 * @returns one for each snap point that has a part of the mesh round it
 */
export function wheelsOf(mesh: Sliced, snapPoints: readonly { name: string; position: Vec3 }[]): Wheel[] {
  const hubs = snapPoints.filter((s) => isWheel(s) && s.position[1] > 0);
  if (hubs.length === 0) return [];
  const parts = partsOf(mesh);
  return hubs.flatMap(({ position: centre }) => {
    const radius = centre[1];
    const own = parts.filter((part) =>
      part.every((v) => {
        const [x, y, z] = [0, 1, 2].map((a) => mesh.positions[v * 3 + a] - centre[a]);
        return hypot(y, z) <= radius * RIM && Math.abs(x) <= radius;
      }),
    );
    return own.length > 0 ? [{ centre, radius, vertices: Uint32Array.from(own.flat()) }] : [];
  });
}

/** Vertices of the parts that hang together, corners at one place as one. */
function partsOf({ positions, indices }: Sliced): number[][] {
  const n = positions.length / 3;
  const parent = Uint32Array.from({ length: n }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const join = (a: number, b: number) => (parent[root(a)] = root(b));
  sameRows(
    Int32Array.from(positions, (p) => Math.round(p * 1e5)),
    3,
  ).forEach((first, v) => join(v, first));
  for (let i = 0; i < indices.length; i += 3) {
    join(indices[i], indices[i + 1]);
    join(indices[i], indices[i + 2]);
  }
  const out = new Map<number, number[]>();
  for (let v = 0; v < n; v++) {
    const part = out.get(root(v));
    if (part) part.push(v);
    else out.set(root(v), [v]);
  }
  return [...out.values()];
}

/**
 * Metres after which all wheels stand as they did: once round the largest; where others are smaller they go round as
 * often as comes nearest to their own way.
 */
export const strideOf = (wheels: readonly Wheel[]): number =>
  2 * Math.PI * wheels.reduce((most, { radius }) => Math.max(most, radius), 0);

/** The mesh with its wheels rolled on: so many of `steps` parts of {@link strideOf} ahead. */
export function rolled(
  key: string,
  mesh: Sliced,
  wheels: readonly Wheel[],
  k: number,
  steps: number,
): PosedMesh {
  const positions = Float32Array.from(mesh.positions);
  const normals = Float32Array.from(mesh.normals);
  const stride = strideOf(wheels);
  for (const { centre, radius, vertices } of wheels) {
    const rounds = Math.max(1, Math.round(stride / (2 * Math.PI * radius)));
    const angle = (2 * Math.PI * rounds * k) / steps;
    const [c, s] = [cos(angle), sin(angle)];
    // What is on top goes to the front.
    const turn = (a: Float32Array, o: number, y0: number, z0: number) => {
      const [y, z] = [a[o + 1] - y0, a[o + 2] - z0];
      a[o + 1] = y0 + y * c - z * s;
      a[o + 2] = z0 + y * s + z * c;
    };
    for (const v of vertices) {
      turn(positions, v * 3, centre[1], centre[2]);
      turn(normals, v * 3, 0, 0);
    }
  }
  return { key: `${key} ${WHEELS} ${steps} ${k}`, k, of: steps, positions, normals };
}
