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
  // Frames once for all vertices of the same length: place, right, up and front, twelve numbers each.
  const known = new Map<number, number>();
  const frames: number[] = [];
  const frameAt = (t: number): number => {
    const have = known.get(t);
    if (have !== undefined) return have;
    const s = from + t * span;
    const f = framesAlong(path, [onPath(path, s)], 'slope');
    const front = [...f.front] as Vec3;
    let up = [...f.up] as Vec3;
    const at = [...f.position] as Vec3;
    // Past an open end it goes straight on.
    const over = path.closed ? 0 : s < 0 ? s : Math.max(0, s - path.length);
    const right = cross(front, up);
    const x = side[0] + (side[1] - side[0]) * t;
    const y = lift[0] + (lift[1] - lift[0]) * t;
    for (let a = 0; a < 3; a++) at[a] += right[a] * x + up[a] * y + front[a] * over - position[a];
    if (roll !== 0) up = rotateAbout(up, front, roll);
    // As its row sees them.
    const made = frames.length;
    for (const v of [at, cross(front, up), up, front]) frames.push(...quatRotate(back, v));
    known.set(t, made);
    return made;
  };
  const back = quatConjugate(rotation);
  const k = span / own / size;
  const positions = new Float64Array(p.length);
  const normals = new Float32Array(p.length);
  for (let o = 0; o < p.length; o += 3) {
    const f = frameAt((p[o + 2] - low) / own);
    // A prop's X is left.
    const [x, y] = [-p[o] * size, p[o + 1] * size];
    const [nx, ny, nz] = [-n[o], n[o + 1], n[o + 2] / k];
    // The frame is square: its normals are as long as they are before it turns them.
    const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    for (let a = 0; a < 3; a++) {
      const [right, up, front] = [frames[f + 3 + a], frames[f + 6 + a], frames[f + 9 + a]];
      positions[o + a] = frames[f + a] + right * x + up * y;
      normals[o + a] = l > 1e-12 ? (right * nx + up * ny + front * nz) / l : up;
    }
  }
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices, groups };
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
