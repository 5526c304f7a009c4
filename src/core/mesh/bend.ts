import { framesAlong, type Frames, type Posture } from '../curve/frames';
import type { CompiledPath } from '../curve/compile';
import { quatRotate, type Quat } from '../math/quat';
import { onPath } from '../curve/sample';
import { cross, dot, type Vec3 } from '../math/vec3';
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
  /** Frames at lengths of the path, where they are others than its posture's. */
  frames?: (s: ArrayLike<number>) => Frames;
  /** Corners that it is mitred at. */
  corners?: Corner[];
}

/** A sharp corner of a path. */
export interface Corner {
  /** Metres along the path. */
  s: number;
  /** Tangent of half the angle that it turns by, to the right positive, seen along its up. */
  tan: number;
}

/** Sharp corners on a stretch of a path, its ends not counted. */
export function cornersWithin(path: CompiledPath, from: number, to: number): Corner[] {
  const hair = path.length * 1e-7;
  return [...path.corners].flatMap((corner) => {
    const turns = path.closed ? [-path.length, 0, path.length] : [0];
    return turns.flatMap((by) => {
      const s = corner + by;
      if (!(s > from + hair && s < to - hair)) return [];
      const f = framesAlong(path, [onPath(path, s - hair), onPath(path, s + hair)], 'slope');
      const [a, b, up] = [f.front.slice(0, 3), f.front.slice(3), f.up.slice(0, 3)];
      const c = Math.max(-1, Math.min(1, a[0] * b[0] + a[1] * b[1] + a[2] * b[2]));
      const across = cross([...a] as Vec3, [...up] as Vec3);
      const right = b[0] * across[0] + b[1] * across[1] + b[2] * across[2];
      // tan(φ / 2) = sin φ / (1 + cos φ); a way straight back has no mitre.
      const tan = Math.sqrt(Math.max(0, 1 - c * c)) / Math.max(0.05, 1 + c);
      return [{ s, tan: right >= 0 ? tan : -tan }];
    });
  });
}

/** Three rows of three: a rotation, after an item's sizes, seen from a frame of right, up and front. */
function seenFrom(front: Vec3, up: Vec3, q: Quat, sizes: Vec3): Float64Array {
  const axes = [cross(front, up), up, front];
  const out = new Float64Array(9);
  for (let column = 0; column < 3; column++) {
    const unit: Vec3 = [0, 0, 0];
    unit[column] = sizes[column];
    const v = quatRotate(q, unit);
    axes.forEach((axis, r) => (out[r * 3 + column] = dot(axis, v)));
  }
  return out;
}

/**
 * Into how many pieces to part a length so that chords of the given bend stay within the tolerance.
 * @param curvature of the line that lengths are counted on, radians a metre
 * @param wide metres from there to the outer edge, which is as much longer as it lies further out
 */
export function piecesFor(length: number, curvature: number, tolerance: number, wide = 0): number {
  if (!(curvature > 1e-9) || !(length > 0)) return 1;
  // The sagitta of a chord c over a bend of radius r is c² / 8 r; at r + w both grow by (r + w) / r.
  const step = Math.sqrt((8 * tolerance) / (curvature * (1 + curvature * wide)));
  // Whole powers of two: items alike share their slices.
  let pieces = 1;
  while (length / pieces > step && pieces < 1024) pieces *= 2;
  return pieces;
}

/** Planes between the pieces of a length. */
export const planesOf = (low: number, high: number, pieces: number): number[] =>
  Array.from({ length: pieces - 1 }, (_, i) => low + ((high - low) * (i + 1)) / pieces);

/**
 * Bends an item's mesh along its path: what lies ahead of its foot lies as far ahead along the path, what lies to its
 * side and above it as far to the side and up. A straight path leaves it as it is. Normals turn with the frames.
 * @param mesh in the prop's own space, sliced as finely as its bends ask for
 */
export function bendMesh(mesh: Sliced, b: Bending): BentMesh {
  const n = mesh.positions.length / 3;
  const { positions: p, normals: q } = mesh;
  const own = new Float64Array(n * 3);
  const ahead = new Float64Array(n);
  /** Metres straight on from the corner that a vertex lies at, on the outside of its mitre. */
  const extra = new Float64Array(b.corners?.length ? n : 0);
  const m = seenFrom(b.front, b.up, b.rotation, b.scale);
  for (let o = 0; o < n * 3; o += 3) {
    for (let r = 0; r < 3; r++)
      own[o + r] = m[r * 3] * p[o] + m[r * 3 + 1] * p[o + 1] + m[r * 3 + 2] * p[o + 2];
    ahead[o / 3] = b.s + own[o + 2];
    for (const corner of b.corners ?? []) mitre(corner, b.side + own[o], o, ahead, extra);
  }
  const order = new Uint32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  order.sort((i, j) => ahead[i] - ahead[j]);
  // Vertices as far along as each other share a frame: slices lie across, so most do.
  const along: number[] = [];
  const frameOf = new Uint32Array(n);
  for (let k = 0; k < n; k++) {
    const s = ahead[order[k]];
    if (along.length === 0 || s !== along[along.length - 1]) along.push(s);
    frameOf[k] = along.length - 1;
  }
  const { position: c, front, up } = b.frames?.(along) ?? framesAlong(b.path, along, b.posture);
  // Normals of a scaled mesh turn by the inverse of its sizes.
  const w = seenFrom(b.front, b.up, b.rotation, b.scale.map((v) => 1 / v) as Vec3);
  const back = seenFrom(
    [0, 0, 1],
    [0, 1, 0],
    [-b.rotation[0], -b.rotation[1], -b.rotation[2], b.rotation[3]],
    [1, 1, 1],
  );
  // The frame of a row has its right on the other side of its X.
  for (let k = 0; k < 3; k++) back[k] = -back[k];
  const positions = new Float64Array(n * 3);
  const normals = new Float32Array(n * 3);
  const [px, py, pz] = b.position;
  for (let k = 0; k < n; k++) {
    const i = order[k] * 3;
    const o = frameOf[k] * 3;
    const fx = front[o];
    const fy = front[o + 1];
    const fz = front[o + 2];
    const ux = up[o];
    const uy = up[o + 1];
    const uz = up[o + 2];
    const rx = fy * uz - fz * uy;
    const ry = fz * ux - fx * uz;
    const rz = fx * uy - fy * ux;
    const side = b.side + own[i];
    const high = b.lift + own[i + 1];
    // Beyond an open end it goes straight on.
    const s = along[frameOf[k]];
    const past = b.path.closed ? 0 : s < 0 ? s : s > b.path.length ? s - b.path.length : 0;
    const over = past + (extra.length > 0 ? extra[order[k]] : 0);
    const x = c[o] + rx * side + ux * high + fx * over - px;
    const y = c[o + 1] + ry * side + uy * high + fy * over - py;
    const z = c[o + 2] + rz * side + uz * high + fz * over - pz;
    const nr = w[0] * q[i] + w[1] * q[i + 1] + w[2] * q[i + 2];
    const nu = w[3] * q[i] + w[4] * q[i + 1] + w[5] * q[i + 2];
    const nf = w[6] * q[i] + w[7] * q[i + 1] + w[8] * q[i + 2];
    const nx = rx * nr + ux * nu + fx * nf;
    const ny = ry * nr + uy * nu + fy * nf;
    const nz = rz * nr + uz * nu + fz * nf;
    const l = 1 / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1);
    for (let r = 0; r < 3; r++) {
      positions[i + r] = back[r * 3] * x + back[r * 3 + 1] * y + back[r * 3 + 2] * z;
      normals[i + r] = (back[r * 3] * nx + back[r * 3 + 1] * ny + back[r * 3 + 2] * nz) * l;
    }
  }
  const { uvs, colors, indices, groups } = mesh;
  // A mirrored item turns its faces over; two corners change places to keep the outside out.
  const mirrored = b.scale[0] * b.scale[1] * b.scale[2] < 0;
  const faces = mirrored ? turnedOver(indices) : indices;
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices: faces, groups };
}

/** Keeps a vertex on its own side of a corner's mitre; what lies at the corner itself is drawn out to the mitre. */
function mitre({ s, tan }: Corner, side: number, o: number, ahead: Float64Array, extra: Float64Array): void {
  const d = ahead[o / 3] - s;
  // Inside the bend the mitre comes before the corner, outside it after.
  const reach = side * tan;
  const hair = 1e-9 * (1 + Math.abs(s));
  if (Math.abs(d) <= hair) {
    ahead[o / 3] = s - hair;
    extra[o / 3] = -reach;
  } else if (reach > 0 && Math.abs(d) < reach) ahead[o / 3] = s + (d < 0 ? -reach : reach);
}

/** Faces with two corners changed, so that their outsides look the other way. */
export const turnedOver = (indices: Uint32Array): Uint32Array =>
  Uint32Array.from(indices, (v, i) => (i % 3 === 1 ? indices[i + 1] : i % 3 === 2 ? indices[i - 1] : v));
