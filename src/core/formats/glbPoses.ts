import type { Mesh as GltfMesh, Node as GltfNode } from '@gltf-transform/core';
import type { PosedMesh } from '../arrange/poses/posable';
import type { Placements } from '../arrange/result';
import type { Mesh } from '../mesh/mesh';
import type { Prop } from '../mesh/propSchema';
import type { GlbParts } from './glbParts';
import { posedMesh } from './glbRows';

/** What bakes one channel of a node over all frames. */
interface Bake {
  channel(node: GltfNode, path: 'weights', values: Float32Array, type: 'SCALAR'): void;
}

/**
 * Poses of an animation: the props' poses are morph targets of one mesh that all slots share, and each slot fades from one to
 * the next by weights of its own.
 */
export class GlbPoses {
  /** The poses that any frame needs of each prop, in the order in which they are met. */
  private readonly needed = new Map<string, PosedMesh[]>();

  constructor(
    private w: GlbParts,
    private bake: Bake,
    frames: readonly Placements[],
  ) {
    for (const p of frames)
      for (let i = 0; i < p.count; i++) {
        const pose = p.posed?.[p.pose?.[i] ?? -1];
        if (!pose) continue;
        const prop = p.props[p.prop[i]];
        const list = this.needed.get(prop);
        if (!list) this.needed.set(prop, [pose]);
        else if (!list.some(({ key }) => key === pose.key)) list.push(pose);
      }
  }

  /** The pose of a slot in each frame, that of a frame before where it is away; null for one that never stands in any. */
  over(frames: readonly Placements[], rows: Int32Array): PosedMesh[] | null {
    const poses = [...rows].map((row, f) =>
      row < 0 ? undefined : frames[f].posed?.[frames[f].pose?.[row] ?? -1],
    );
    let last = poses.find((p) => p !== undefined);
    return last ? poses.map((p) => (last = p ?? last)!) : null;
  }

  /** The mesh that all slots of a prop share. */
  mesh(prop: Prop, mesh: Mesh, mirrored: boolean): GltfMesh {
    const [first, ...others] = this.needed.get(prop.id)!;
    const made = posedMesh(this.w, prop, mesh, first, mirrored);
    const [primitive] = made.listPrimitives();
    if (others.length === 0 || primitive.listTargets().length > 0) return made;
    const away = (now: Float32Array, then: Float32Array) =>
      this.w.accessor(
        'VEC3',
        now.map((v, i) => (v - then[i]) * (mirrored && i % 3 === 0 ? -1 : 1)),
      );
    for (const { positions, normals } of others) {
      const [position, normal] = [away(positions, first.positions), away(normals, first.normals)];
      for (const part of made.listPrimitives())
        part.addTarget(
          this.w.document
            .createPrimitiveTarget()
            .setAttribute('POSITION', position)
            .setAttribute('NORMAL', normal),
        );
    }
    made.setWeights(new Array<number>(others.length).fill(0));
    return made;
  }

  /** Bakes the poses of a slot. @param poses one a frame */
  play(node: GltfNode, prop: Prop, poses: readonly PosedMesh[]): void {
    const list = this.needed.get(prop.id)!;
    const targets = list.length - 1;
    if (targets === 0) return;
    const weights = new Float32Array(poses.length * targets);
    poses.forEach(({ key }, f) => {
      const at = list.findIndex((p) => p.key === key);
      // The first of them is the mesh itself.
      if (at > 0) weights[f * targets + at - 1] = 1;
    });
    const first = Array.from(weights.subarray(0, targets));
    node.setWeights(first);
    if (poses.some(({ key }) => key !== poses[0].key)) this.bake.channel(node, 'weights', weights, 'SCALAR');
  }
}
