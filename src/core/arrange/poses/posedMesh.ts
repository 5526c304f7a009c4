import { faceNormals, sharedNormals } from '../../mesh/normals';
import type { Mesh } from '../../mesh/mesh';
import { ownSpace, type Sliced } from '../../mesh/slice';
import type { Vec3 } from '../../math/vec3';
import type { Posable, PosedMesh } from './posable';
import { rolled, strideOf, wheelsOf, WHEELS } from './wheels';
import type { Motion } from '../../mesh/motion';

/** More poses of one prop than this are not kept. */
const MOST = 2000;
/** At so many moments a clip is looked at to tell whether it moves. */
const LOOKS = 8;

/** Poses by wheels, beside those by animations if there are some; null where neither is. */
export function withWheels(
  key: string,
  mesh: Sliced,
  snapPoints: readonly { name: string; position: Vec3 }[],
  own: Posable | null,
): Posable | null {
  const wheels = wheelsOf(mesh, snapPoints);
  if (wheels.length === 0) return own;
  const made = new Map<string, PosedMesh>();
  return {
    clips: [...(own?.clips ?? []), { name: WHEELS, duration: 0, stride: strideOf(wheels) }],
    moves: (clip) => clip === WHEELS || own!.moves(clip),
    pose(clip, k, steps) {
      if (clip !== WHEELS) return own!.pose(clip, k, steps);
      const at = `${steps} ${k}`;
      let pose = made.get(at);
      if (!pose) made.set(at, (pose = rolled(key, mesh, wheels, k, steps)));
      return pose;
    },
  };
}

/**
 * The poses of a mesh that brings animations along.
 * @param key of the prop @param matrix from the mesh to the prop's own space, column-major; it scales evenly
 */
export function posable(key: string, mesh: Mesh, motion: Motion, matrix: ArrayLike<number>): Posable {
  const made = new Map<string, PosedMesh>();
  const still = new Map<string, boolean>();
  const shared = sharedNormals(mesh.positions, mesh.normals);
  const at = (clip: string, time: number): Float32Array => {
    const out = new Float32Array(mesh.positions.length);
    motion.sample(clip, time, out);
    return out;
  };
  const durationOf = (clip: string) => motion.clips.find((c) => c.name === clip)?.duration ?? 0;
  return {
    clips: motion.clips,
    moves(clip) {
      let moves = still.get(clip);
      if (moves === undefined) {
        const first = at(clip, 0);
        moves = Array.from({ length: LOOKS }, (_, k) => at(clip, (durationOf(clip) * (k + 1)) / LOOKS)).some(
          (now) => now.some((v, i) => v !== first[i]),
        );
        still.set(clip, moves);
      }
      return moves;
    },
    pose(clip, k, steps) {
      const own = `${key} ${steps} ${k} ${clip}`;
      let pose = made.get(own);
      if (!pose) {
        const posed = { ...mesh, positions: at(clip, (durationOf(clip) * k) / steps) };
        const { positions: places, normals: rest } = ownSpace(posed, matrix);
        const positions = Float32Array.from(places);
        const normals = Float32Array.from(faceNormals(places, mesh.indices, shared, rest));
        if (made.size >= MOST) made.clear();
        made.set(own, (pose = { key: own, k, of: steps, positions, normals }));
      }
      return pose;
    },
  };
}
