import type { CompiledPath } from '../../curve/compile';
import { framesAlong, type Frames, type Posture } from '../../curve/frames';
import { onPath, samplePath } from '../../curve/sample';
import type { Placements } from '../result';
import { acos, hypot } from '../../math/portable';
import { quatRotate, type Quat } from '../../math/quat';
import { cross, dot, sub, type Vec3 } from '../../math/vec3';
import { bendMesh, cornersWithin, piecesFor } from '../../mesh/bend';
import { clipAlong } from '../../mesh/clip';
import { inPieces } from '../../mesh/pieces';
import { sliceAlongZ, type Sliced } from '../../mesh/slice';
import type { TriMesh } from '../../mesh/triMesh';
import { ONE_TIME, type Slices } from '../fineness';
import { surfaceStand, type Pose } from './onSurface';
import { Shapes } from './shapes';

/** Items bent along their path. Those of the same shape, and those on straight stretches, are worked out once. */
export interface Bender {
  /** Bends the item in a row that stands at length `s` of a path. */
  /** @param end metres along the path where it is cut off */
  bend(path: CompiledPath, s: number, out: Placements, row: number, end?: number): void;
}

/** Where bent items stand square to the surface that their path lies on. */
export interface OverSurface {
  triMesh(id: string): TriMesh | undefined;
  lean: number;
}

/** Frames whose up is the surface's, nearer to upright by the lean. */
function surfaceFrames(path: CompiledPath, s: ArrayLike<number>, triMesh: TriMesh, lean: number): Frames {
  const frames = framesAlong(path, s, 'slope');
  const on = surfaceStand(path, triMesh, s, frames, lean);
  const pose: Pose = { position: [0, 0, 0], front: [0, 0, 1], up: [0, 1, 0] };
  for (let i = 0; i < s.length; i++) {
    if (!on.has(i)) continue;
    on.moved(i, 0, 0, pose);
    frames.front.set(pose.front, i * 3);
    frames.up.set(pose.up, i * 3);
  }
  return frames;
}

/** Shapes whose paths differ by less than this share of the tolerance are one. */
const ALIKE = 0.2;

/** @param meshes of the props that the placements count, in their own space; undefined where one is not at hand */
export function bender(
  posture: Posture,
  tolerance: number,
  meshes: (Sliced | undefined)[],
  mitred = false,
  over: OverSurface | null = null,
  slices: Slices = ONE_TIME,
  bankDeg = 0,
): Bender {
  const framesOf = (path: CompiledPath, s: ArrayLike<number>): Frames => {
    const triMesh = path.on && over?.triMesh(path.on.surface);
    return triMesh ? surfaceFrames(path, s, triMesh, over!.lean) : framesAlong(path, s, posture, bankDeg);
  };
  /** By their prop, slices and size, and what their path does over them. */
  const shapes = new Shapes(tolerance * ALIKE);
  return {
    bend(path, s, out, row, end = Infinity) {
      const whole = out.prop[row] < 0 ? undefined : meshes[out.prop[row]];
      if (!whole) return;
      const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
      const scale = [...out.scale.subarray(row * 3, row * 3 + 3)] as Vec3;
      const position = [...out.position.subarray(row * 3, row * 3 + 3)] as Vec3;
      const here = framesOf(path, [s]);
      const front = [...here.front] as Vec3;
      const up = [...here.up] as Vec3;
      const right = cross(front, up);
      const away = sub(position, [...here.position] as Vec3);
      const at = s + dot(away, front);
      const mesh = endedAt(whole, ownFront(q, front), (end - at) / scale[2]);
      const [low, high] = reach(mesh, q, scale, front);
      const along = profile(path, (at) => framesOf(path, at), at, low, high, q, position);
      const slot = out.slot[row];
      const wide = hypot(dot(away, right), dot(away, up)) + acrossOf(whole, ownFront(q, front), scale);
      if (along.straight && mesh === whole && !slices.bent(slot)) return;
      const corners = mitred ? cornersWithin(path, at + low, at + high) : [];
      const pieces = slices.most(slot, 'z', piecesFor(high - low, along.curvature, tolerance, wide));
      // What is cut, or folded, is cut and folded where it is: it is alike by what the path does over it.
      const folds = corners.map((c) => (c.s - at) / scale[2]);
      const key = [
        out.prop[row],
        pieces,
        mesh === whole ? '' : (end - at).toFixed(9),
        ...folds,
        ...scale,
      ].join(' ');
      shapes.give(out, row, key, along.shape, () =>
        bendMesh(foldedAt(slicedFor(mesh, pieces, ownFront(q, front)), ownFront(q, front), folds), {
          path,
          posture,
          s: at,
          side: dot(away, right),
          lift: dot(away, up),
          position,
          rotation: q,
          scale,
          front,
          up,
          corners,
          ...(over && { frames: (at: ArrayLike<number>) => framesOf(path, at) }),
        }),
      );
    },
  };
}

/** The part of a mesh up to a plane square to its front; only of one that faces along the path. */
const endedAt = (mesh: Sliced, own: Vec3, z: number): Sliced =>
  own[2] < 0.999 || z === Infinity ? mesh : clipAlong(mesh, 2, -Infinity, z);

/** The mesh sliced at corners, so that it folds there. */
const foldedAt = (mesh: Sliced, own: Vec3, folds: number[]): Sliced =>
  folds.length > 0 && own[2] > 0.999 ? sliceAlongZ(mesh, folds) : mesh;

/** How far a mesh reaches back and ahead of its foot along the path. */
function reach(mesh: Sliced, q: Quat, scale: Vec3, front: Vec3): [number, number] {
  let low = 0;
  let high = 0;
  const own = ownFront(q, front);
  const p = mesh.positions;
  for (let o = 0; o < p.length; o += 3) {
    const d = p[o] * scale[0] * own[0] + p[o + 1] * scale[1] * own[1] + p[o + 2] * scale[2] * own[2];
    if (d < low) low = d;
    if (d > high) high = d;
  }
  return [low, high];
}

const boxes = new WeakMap<Sliced, Float64Array>();

/** Least and greatest x, y and z of a mesh. */
function boxAround(mesh: Sliced): Float64Array {
  let box = boxes.get(mesh);
  if (!box) {
    box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
    mesh.positions.forEach((v, o) => {
      box![o % 3] = Math.min(box![o % 3], v);
      box![3 + (o % 3)] = Math.max(box![3 + (o % 3)], v);
    });
    boxes.set(mesh, box);
  }
  return box;
}

/** How far a mesh reaches from the line through its foot along `own`, by its box, metres. */
function acrossOf(mesh: Sliced, own: Vec3, scale: Vec3): number {
  const box = boxAround(mesh);
  let most = 0;
  for (let corner = 0; corner < 8; corner++) {
    const p = [0, 1, 2].map((k) => box[(corner >> k) & 1 ? 3 + k : k] * Math.abs(scale[k])) as Vec3;
    const along = dot(p, own);
    most = Math.max(most, hypot(p[0] - own[0] * along, p[1] - own[1] * along, p[2] - own[2] * along));
  }
  return most;
}

/** The way along the path, in the prop's own space. */
const ownFront = (q: Quat, front: Vec3): Vec3 => quatRotate([-q[0], -q[1], -q[2], q[3]], front);

const PLACES = 9;

/** What a path does over an item, as seen from it: near numbers bend alike. */
function profile(
  path: CompiledPath,
  framesOf: (s: ArrayLike<number>) => Frames,
  at: number,
  low: number,
  high: number,
  q: Quat,
  position: Vec3,
): { shape: number[]; straight: boolean; curvature: number } {
  const s = Array.from({ length: PLACES }, (_, i) => at + low + ((high - low) * i) / (PLACES - 1));
  const frames = framesOf(s);
  const { tangent } = samplePath(path, s);
  const back: Quat = [-q[0], -q[1], -q[2], q[3]];
  const read = (list: Float64Array, i: number): Vec3 => [list[i * 3], list[i * 3 + 1], list[i * 3 + 2]];
  const shape: number[] = [low, high];
  let curvature = 0;
  let straight = true;
  const first = read(frames.front, 0);
  const firstUp = read(frames.up, 0);
  for (let i = 0; i < PLACES; i++) {
    const f = read(frames.front, i);
    const u = read(frames.up, i);
    shape.push(
      ...quatRotate(back, sub(read(frames.position, i), position)),
      ...quatRotate(back, f),
      ...quatRotate(back, u),
    );
    if (1 - dot(f, first) > 1e-14 || 1 - dot(u, firstUp) > 1e-14) straight = false;
    if (i === 0) continue;
    const turn = acos(Math.min(1, dot(read(tangent, i), read(tangent, i - 1))));
    const step = Math.abs(onPath(path, s[i]) - onPath(path, s[i - 1])) || 1;
    curvature = Math.max(curvature, turn / step);
  }
  // An open end goes straight on: past it an item is as it was.
  return { shape, straight, curvature };
}

/**
 * The mesh sliced square to its front into so many pieces. Slices lie across the prop's own front: one that is turned
 * off the path is bent as finely as its mesh is.
 */
const slicedFor = (mesh: Sliced, pieces: number, own: Vec3): Sliced =>
  Math.abs(own[2]) < 0.999 ? mesh : inPieces(mesh, { x: 1, z: pieces });
