import { STATE, type Placements } from '../arrange/result';
import type { Assets, SceneResult } from '../evaluate/scene';
import type { Mesh } from '../mesh/mesh';
import type { Scene } from '../scene/schema';

/** How large a file an animation will be, told from two of its frames. */

const VEC3 = 12;
/** A node with its name and its extras, and a channel with its sampler and its accessors, as JSON. */
const NODE = 190;
const CHANNEL = 330;
const MESH = 900;

/** Bytes of the arrays of a mesh. */
export const meshBytes = (m: Pick<Mesh, 'positions' | 'normals' | 'uvs' | 'colors' | 'indices'>): number =>
  [m.positions, m.normals, m.uvs, m.colors, m.indices].reduce((sum, a) => sum + (a?.byteLength ?? 0), 0);

/** Bytes a vertex that a morph target takes: by how far it and its normal have gone. */
const MORPHED = 2 * VEC3;

/**
 * About how many bytes {@link writeAnimatedGlb} will make. What differs between the two frames moves, and is baked in
 * each. @param frames how many there will be @param surfaces whether they go along
 */
export function animationBytes(
  scene: Scene,
  [one, other]: [SceneResult, SceneResult],
  frames: number,
  assets: Assets,
  surfaces: boolean,
): number {
  let bytes = 2000;
  const drawn = new Set<string>();
  scene.arrangements.forEach((a, i) => {
    if (!a.visible) return;
    const [p, q] = [one.arrangements[i].placements, other.arrangements[i].placements];
    for (let r = 0; r < p.count; r++) if (p.state[r] === STATE.placed) drawn.add(p.props[p.prop[r]]);
    const meshes = p.props.map((id) => {
      const prop = scene.props.find((one) => one.id === id);
      return prop && assets.mesh(prop.mesh);
    });
    bytes += placedBytes(p, q, frames, meshes);
  });
  for (const { id, mesh: ref } of scene.props) {
    const mesh = drawn.has(id) ? assets.mesh(ref) : undefined;
    if (mesh) bytes += meshBytes(mesh);
  }
  if (!surfaces) return bytes;
  one.surfaces.forEach(({ mesh, key }, i) => {
    if (!mesh || !scene.surfaces[i].visible) return;
    bytes += meshBytes(mesh);
    if (key !== other.surfaces[i].key)
      bytes += (frames - 1) * ((mesh.positions.length / 3) * MORPHED + 2 * CHANNEL) + frames * frames * 4;
  });
  return bytes;
}

const poseAt = (p: Placements, row: number) => p.posed?.[p.pose?.[row] ?? -1];

/** The nodes of an arrangement with what is baked of them. */
function placedBytes(p: Placements, q: Placements, frames: number, meshes: (Mesh | undefined)[]): number {
  const there = new Map([...q.slot].map((slot, i) => [slot, i]));
  const shapes = new Set<number>();
  /** By prop: who plays, and which poses of it are needed over all frames. */
  const posed = new Map<number, { nodes: number; vertices: number; poses: Set<number> }>();
  let bytes = 0;
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    bytes += NODE;
    const j = there.get(p.slot[i]);
    if (j === undefined) continue;
    for (const [values, size] of [
      ['position', 3],
      ['rotation', 4],
      ['scale', 3],
    ] as const) {
      const moves = Array.from({ length: size }, (_, k) => k).some(
        (k) => p[values][i * size + k] !== q[values][j * size + k],
      );
      if (moves) bytes += CHANNEL + frames * size * 4;
    }
    const pose = poseAt(p, i);
    if (pose) {
      let seen = posed.get(p.prop[i]);
      if (!seen)
        posed.set(p.prop[i], (seen = { nodes: 0, vertices: pose.positions.length / 3, poses: new Set() }));
      seen.nodes++;
      // As far on from frame to frame as from the first to the second.
      const on = (poseAt(q, j)?.k ?? pose.k) - pose.k + pose.of;
      for (let f = 0; f < Math.min(frames, pose.of); f++) seen.poses.add((pose.k + on * f) % pose.of);
    }
    const shape = p.shape?.[i] ?? -1;
    const bent = shape >= 0 ? p.bent?.[shape] : undefined;
    if (!bent) continue;
    const then = q.bent?.[q.shape?.[j] ?? -1];
    if (bent !== then)
      bytes += (frames - 1) * ((bent.positions.length / 3) * MORPHED + 2 * CHANNEL) + frames * frames * 4;
    const whole = { ...meshes[p.prop[i]]!, ...bent, positions: Float32Array.from(bent.positions) };
    if (bent !== then || !shapes.has(shape)) bytes += meshBytes(whole) + MESH;
    shapes.add(shape);
  }
  for (const { nodes, vertices, poses } of posed.values()) {
    const others = poses.size - 1;
    if (others > 0)
      bytes += nodes * (CHANNEL + frames * others * 4) + others * (vertices * MORPHED + 2 * CHANNEL);
  }
  return bytes;
}
