import { framesAlong } from '../../curve/frames';
import type { CompiledPath } from '../../curve/compile';
import { onPath, samplePath } from '../../curve/sample';
import { acos } from '../../math/portable';
import { quatConjugate, quatRotate, type Quat } from '../../math/quat';
import { cross, dot, normalize, rotateAbout, sub, type Vec3 } from '../../math/vec3';
import { piecesFor, type BentMesh } from '../../mesh/bend';
import { clipAlong } from '../../mesh/clip';
import { inPieces } from '../../mesh/pieces';
import type { Sliced } from '../../mesh/slice';

/** Members that are cut to their length, or that follow the path: meshes of their own, seen from their rows. */

/** How far, in metres, a bent member's faces may lie off the true bend. */
const TOLERANCE = 0.002;

const mapped = (mesh: Sliced, map: (p: Vec3, n: Vec3) => [Vec3, Vec3]): BentMesh => {
  const positions = new Float64Array(mesh.positions.length);
  const normals = new Float32Array(mesh.positions.length);
  for (let o = 0; o < positions.length; o += 3) {
    const [p, n] = map(
      [mesh.positions[o], mesh.positions[o + 1], mesh.positions[o + 2]],
      [mesh.normals[o], mesh.normals[o + 1], mesh.normals[o + 2]],
    );
    positions.set(p, o);
    normals.set(n, o);
  }
  const { uvs, colors, indices, groups } = mesh;
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices, groups };
};

/** A member's mesh from its lower end to `length` of its own metres on. @param size across, and along */
export function cutMember(
  mesh: Sliced,
  low: number,
  length: number,
  [across, along]: readonly [number, number],
): BentMesh {
  const part = clipAlong(mesh, 2, low - 1, low + length);
  return mapped(part, (p, n) => [
    [p[0] * across, p[1] * across, p[2] * along],
    normalize([n[0] / across, n[1] / across, n[2] / along], n),
  ]);
}

/** The way of a member along its path. */
export interface Follow {
  path: CompiledPath;
  /** Lengths along the path at both ends; the second lies on beyond the seam of a loop. */
  from: number;
  to: number;
  /** Metres to the right of the path and up, at both ends. */
  side: [number, number];
  lift: [number, number];
}

/** Where a place lies as seen from the path at a length: to its right, up, and along. */
export function seenFromPath(
  path: CompiledPath,
  s: number,
  at: Vec3,
): [side: number, lift: number, along: number] {
  const f = framesAlong(path, [onPath(path, s)], 'slope');
  const away = sub(at, [...f.position] as Vec3);
  const [front, up] = [[...f.front] as Vec3, [...f.up] as Vec3];
  return [dot(away, cross(front, up)), dot(away, up), dot(away, front)];
}

/**
 * A member that follows its path between two lengths, its height and side going over from one end's to the other's.
 * @param mesh in the prop's own space, `low` to `high` along its front @param size across
 * @param position, rotation those of its row @param most into how many pieces to slice it, where its bend asks for so many
 */
export function followMember(
  mesh: Sliced,
  [low, high]: [number, number],
  { path, from, to, side, lift }: Follow,
  size: number,
  roll: number,
  position: Vec3,
  rotation: Quat,
  most: (pieces: number) => number,
): BentMesh {
  const span = to - from;
  const own = high - low || 1;
  const pieces = most(piecesFor(span, bendOf(path, from, to), TOLERANCE, acrossOf(mesh) * size));
  const cut = inPieces(mesh, { x: 1, z: pieces });
  const { positions: p, normals: n, uvs, colors, indices, groups } = cut;
  // Frames once for all vertices of the same length.
  const known = new Map<number, number>();
  const frameOf = new Uint32Array(p.length / 3);
  for (let i = 0; i < frameOf.length; i++) {
    const z = p[i * 3 + 2];
    let f = known.get(z);
    if (f === undefined) known.set(z, (f = known.size));
    frameOf[i] = f;
  }
  const shares = Float64Array.from(known.keys(), (z) => (z - low) / own);
  const frames = framesOf(shares, { path, from, to, side, lift }, roll, position, rotation);
  const k = span / own / size;
  const positions = new Float64Array(p.length);
  const normals = new Float32Array(p.length);
  for (let o = 0; o < p.length; o += 3) {
    const f = frameOf[o / 3] * 12;
    // A prop's X is left.
    const x = -p[o] * size;
    const y = p[o + 1] * size;
    const nx = -n[o];
    const ny = n[o + 1];
    const nz = n[o + 2] / k;
    // The frame is square: its normals are as long as they are before it turns them.
    const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    for (let a = 0; a < 3; a++) {
      const right = frames[f + 3 + a];
      const up = frames[f + 6 + a];
      positions[o + a] = frames[f + a] + right * x + up * y;
      normals[o + a] = l > 1e-12 ? (right * nx + up * ny + frames[f + 9 + a] * nz) / l : up;
    }
  }
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices, groups };
}

/** Place, right, up and front at shares of a member's way, as its row sees them: twelve numbers each. */
function framesOf(
  shares: Float64Array,
  { path, from, to, side, lift }: Follow,
  roll: number,
  position: Vec3,
  rotation: Quat,
): Float64Array {
  const s = shares.map((t) => from + t * (to - from));
  const along = framesAlong(
    path,
    s.map((l) => onPath(path, l)),
    'slope',
  );
  const back = quatConjugate(rotation);
  const out = new Float64Array(shares.length * 12);
  for (let i = 0; i < shares.length; i++) {
    const t = shares[i];
    const [front, standing, at] = [along.front, along.up, along.position].map((of): Vec3 => [
      of[i * 3],
      of[i * 3 + 1],
      of[i * 3 + 2],
    ]);
    // Past an open end it goes straight on.
    const over = path.closed ? 0 : s[i] < 0 ? s[i] : Math.max(0, s[i] - path.length);
    const right = cross(front, standing);
    const x = side[0] + (side[1] - side[0]) * t;
    const y = lift[0] + (lift[1] - lift[0]) * t;
    for (let a = 0; a < 3; a++) at[a] += right[a] * x + standing[a] * y + front[a] * over - position[a];
    const up = roll === 0 ? standing : rotateAbout(standing, front, roll);
    out.set(quatRotate(back, at), i * 12);
    out.set(quatRotate(back, cross(front, up)), i * 12 + 3);
    out.set(quatRotate(back, up), i * 12 + 6);
    out.set(quatRotate(back, front), i * 12 + 9);
  }
  return out;
}

/** How far a mesh reaches from its own Z axis. */
function acrossOf({ positions: p }: Sliced): number {
  let most = 0;
  for (let o = 0; o < p.length; o += 3) most = Math.max(most, p[o] * p[o] + p[o + 1] * p[o + 1]);
  return Math.sqrt(most);
}

/** The strongest bend of a path over a stretch, radians a metre; sharp corners count as a bend over a short way. */
function bendOf(path: CompiledPath, from: number, to: number): number {
  const n = 24;
  const s = Array.from({ length: n + 1 }, (_, i) => onPath(path, from + ((to - from) * i) / n));
  const { tangent } = samplePath(path, s);
  let most = 0;
  for (let i = 1; i <= n; i++) {
    const a: Vec3 = [tangent[i * 3 - 3], tangent[i * 3 - 2], tangent[i * 3 - 1]];
    const b: Vec3 = [tangent[i * 3], tangent[i * 3 + 1], tangent[i * 3 + 2]];
    most = Math.max(most, acos(Math.max(-1, Math.min(1, dot(a, b)))) / ((to - from) / n || 1));
  }
  return most;
}
