import { framesAlong, type Posture } from '../curve/frames';
import type { CompiledPath } from '../curve/compile';
import { quatRotate, type Quat } from '../math/quat';
import { normalize, type Vec3 } from '../math/vec3';
import type { Sliced } from './slice';

/** A mesh of its own shape, in the frame of its row: drawn with that row's place and turn, its size in it already. */
export interface BentMesh {
  positions: Float64Array;
  normals: Float32Array;
  uvs?: Float32Array;
  colors?: Float32Array;
  indices: Uint32Array;
  groups: { start: number; count: number; material: number }[];
}

/** How an item lies on its path. */
export interface Bending {
  path: CompiledPath;
  posture: Posture;
  /** Metres along the path where its foot is. */
  s: number;
  /** Metres to the right of the path, and up. */
  side: number;
  lift: number;
  /** Where its foot stands, and how it is turned: those of the rigid item. */
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
  /** The path's own frame at the foot: what the item is turned from before it is bent. */
  front: Vec3;
  up: Vec3;
}

/** Turned back from the scene into a frame of front, up and right. */
const inFrame = (v: Vec3, front: Vec3, up: Vec3): Vec3 => {
  const right: Vec3 = [
    front[1] * up[2] - front[2] * up[1],
    front[2] * up[0] - front[0] * up[2],
    front[0] * up[1] - front[1] * up[0],
  ];
  const d = (a: Vec3) => v[0] * a[0] + v[1] * a[1] + v[2] * a[2];
  return [d(right), d(up), d(front)];
};

/** Planes that part a length so finely that chords of the given bend stay within the tolerance. */
export function planesFor(low: number, high: number, curvature: number, tolerance: number): number[] {
  if (!(curvature > 1e-9) || !(high > low)) return [];
  // The sagitta of a chord c over a bend of radius r is c² / 8 r.
  const step = Math.sqrt((8 * tolerance) / curvature);
  // Whole powers of two: items alike share their slices.
  let pieces = 1;
  while ((high - low) / pieces > step && pieces < 1024) pieces *= 2;
  return Array.from({ length: pieces - 1 }, (_, i) => low + ((high - low) * (i + 1)) / pieces);
}

/**
 * Bends an item's mesh along its path: what lies ahead of its foot lies as far ahead along the path, what lies to its
 * side and above it as far to the side and up. A straight path leaves it as it is. Normals turn with the frames.
 * @param mesh in the prop's own space, sliced as finely as its bends ask for
 */
export function bendMesh(mesh: Sliced, b: Bending): BentMesh {
  const n = mesh.positions.length / 3;
  const ahead = new Float64Array(n);
  const own = new Float64Array(n * 3);
  const normal = new Float64Array(n * 3);
  // Normals of a scaled mesh turn by the inverse of its sizes.
  const inverse = b.scale.map((v) => 1 / v) as Vec3;
  for (let i = 0; i < n; i++) {
    const o = i * 3;
    const p = mesh.positions;
    const v = quatRotate(b.rotation, [p[o] * b.scale[0], p[o + 1] * b.scale[1], p[o + 2] * b.scale[2]]);
    own.set(inFrame(v, b.front, b.up), o);
    const q = mesh.normals;
    const w = quatRotate(b.rotation, [q[o] * inverse[0], q[o + 1] * inverse[1], q[o + 2] * inverse[2]]);
    normal.set(inFrame(normalize(w), b.front, b.up), o);
    ahead[i] = b.s + own[o + 2];
  }
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((i, j) => ahead[i] - ahead[j]);
  const frames = framesAlong(
    b.path,
    Float64Array.from(order, (i) => ahead[i]),
    b.posture,
  );
  const [x, y, z, w] = b.rotation;
  const back: Quat = [-x, -y, -z, w];
  const positions = new Float64Array(n * 3);
  const normals = new Float32Array(n * 3);
  order.forEach((i, k) => {
    const f: Vec3 = [frames.front[k * 3], frames.front[k * 3 + 1], frames.front[k * 3 + 2]];
    const u: Vec3 = [frames.up[k * 3], frames.up[k * 3 + 1], frames.up[k * 3 + 2]];
    const r: Vec3 = [f[1] * u[2] - f[2] * u[1], f[2] * u[0] - f[0] * u[2], f[0] * u[1] - f[1] * u[0]];
    const side = b.side + own[i * 3];
    const high = b.lift + own[i * 3 + 1];
    // Beyond an open end it goes straight on.
    const over = b.path.closed ? 0 : ahead[i] < 0 ? ahead[i] : Math.max(0, ahead[i] - b.path.length);
    const at = [0, 1, 2].map(
      (a) => frames.position[k * 3 + a] + r[a] * side + u[a] * high + f[a] * over - b.position[a],
    ) as Vec3;
    positions.set(quatRotate(back, at), i * 3);
    const m = [normal[i * 3], normal[i * 3 + 1], normal[i * 3 + 2]];
    const turned = [0, 1, 2].map((a) => r[a] * m[0] + u[a] * m[1] + f[a] * m[2]) as Vec3;
    normals.set(normalize(quatRotate(back, turned)), i * 3);
  });
  const { uvs, colors, indices, groups } = mesh;
  // A mirrored item turns its faces over; two corners change places to keep the outside out.
  const mirrored = b.scale[0] * b.scale[1] * b.scale[2] < 0;
  const faces = mirrored
    ? Uint32Array.from(indices, (v, i) => (i % 3 === 1 ? indices[i + 1] : i % 3 === 2 ? indices[i - 1] : v))
    : indices;
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices: faces, groups };
}
