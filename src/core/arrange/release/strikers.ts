import type { Collider, RigidBody, World } from '@dimforge/rapier3d-deterministic-compat';
import type { Vec3 } from '../../math/vec3';
import type { TriMesh } from '../../mesh/triMesh';
import { STATE, type Placements } from '../result';
import type { Around, FallSpec } from './spec';
import { rigidBetween } from './rigid';

/** What falling things strike and do not move: surfaces and the props of other arrangements. */

interface SurfaceBody {
  id: string;
  body: RigidBody;
  collider: Collider;
  /** As it was at the release; null once its shape has changed. */
  first: TriMesh | null;
  vertices: number;
}

interface PlacedBody {
  of: string;
  row: number;
  body: RigidBody;
}

/** More props of others than this are not struck: it is said. */
const MOST_AGAINST = 5000;

/** The bodies of all that is struck; those that move are moved frame by frame. */
export class Strikers {
  private surfaces: SurfaceBody[] = [];
  private placed: PlacedBody[] = [];
  /** Handles of the colliders that move. */
  readonly moving = new Set<number>();
  /** Props that are not struck, being too many. */
  left = 0;

  constructor(
    private world: World,
    private spec: FallSpec,
    private origin: Vec3,
    around: Around,
  ) {
    for (const [id, mesh] of around.surfaces) this.surface(id, mesh);
    for (const [id, placements] of around.placed) this.arrangement(id, placements);
  }

  private surface(id: string, mesh: TriMesh): void {
    if (mesh.indices.length < 3) return;
    const { RigidBodyDesc } = this.spec.physics;
    const moves = this.spec.moving.has(id);
    const body = this.world.createRigidBody(
      moves ? RigidBodyDesc.kinematicPositionBased() : RigidBodyDesc.fixed(),
    );
    const collider = this.collide(body, this.verticesOf(mesh), mesh.indices, true);
    if (moves) this.moving.add(collider.handle);
    this.surfaces.push({ id, body, collider, first: mesh, vertices: mesh.positions.length });
  }

  private arrangement(id: string, p: Placements): void {
    const { RigidBodyDesc } = this.spec.physics;
    const moves = this.spec.moving.has(id);
    for (let row = 0; row < p.count; row++) {
      const mesh = p.state[row] === STATE.placed ? this.spec.mesh(p.props[p.prop[row]]) : undefined;
      if (!mesh || mesh.indices.length < 3) continue;
      if (this.placed.length >= MOST_AGAINST) {
        this.left++;
        continue;
      }
      const desc = moves ? RigidBodyDesc.kinematicPositionBased() : RigidBodyDesc.fixed();
      const body = this.world.createRigidBody(desc);
      const [at, turn] = this.poseOf(p, row);
      body.setTranslation(at, false);
      body.setRotation(turn, false);
      const [x, y, z] = [0, 1, 2].map((k) => p.scale[row * 3 + k]);
      const vertices = Float32Array.from(
        mesh.positions,
        (v, i) => v * (i % 3 === 0 ? x : i % 3 === 1 ? y : z),
      );
      const collider = this.collide(body, vertices, mesh.indices, false);
      if (moves) this.moving.add(collider.handle);
      this.placed.push({ of: id, row, body });
    }
  }

  private collide(
    body: RigidBody,
    vertices: Float32Array,
    indices: Uint32Array,
    isGround: boolean,
  ): Collider {
    const { physics, release } = this.spec;
    const { ColliderDesc, TriMeshFlags } = physics;
    // Where faces of a ground meet in a plane nothing stumbles over their edge.
    const desc = ColliderDesc.trimesh(
      vertices,
      indices,
      isGround ? TriMeshFlags.FIX_INTERNAL_EDGES : undefined,
    );
    return this.world.createCollider(desc.setFriction(release.friction).setRestitution(release.bounce), body);
  }

  private verticesOf({ positions }: TriMesh): Float32Array {
    return Float32Array.from(positions, (v, i) => v - this.origin[i % 3]);
  }

  private poseOf(p: Placements, row: number) {
    const [o, q] = [row * 3, row * 4];
    const [x, y, z] = [0, 1, 2].map((k) => p.position[o + k] - this.origin[k]);
    return [
      { x, y, z },
      { x: p.rotation[q], y: p.rotation[q + 1], z: p.rotation[q + 2], w: p.rotation[q + 3] },
    ] as const;
  }

  /** Moves what moves to where it is at a frame, in the next step. */
  move(around: Around): void {
    for (const s of this.surfaces) {
      const now = this.spec.moving.has(s.id) ? around.surfaces.get(s.id) : undefined;
      if (!now || now.positions.length !== s.vertices) continue;
      const rigid = s.first && rigidBetween(s.first, now, this.origin);
      if (rigid) {
        s.body.setNextKinematicTranslation(rigid.position);
        s.body.setNextKinematicRotation(rigid.rotation);
        continue;
      }
      // What changes its shape is made anew; what touches it is pushed out of where it is now.
      s.first = null;
      this.moving.delete(s.collider.handle);
      this.world.removeRigidBody(s.body);
      s.body = this.world.createRigidBody(this.spec.physics.RigidBodyDesc.kinematicPositionBased());
      s.collider = this.collide(s.body, this.verticesOf(now), now.indices, true);
      this.moving.add(s.collider.handle);
    }
    for (const { of, row, body } of this.placed) {
      const now = this.spec.moving.has(of) ? around.placed.get(of) : undefined;
      if (!now || row >= now.count) continue;
      const [at, turn] = this.poseOf(now, row);
      body.setNextKinematicTranslation(at);
      body.setNextKinematicRotation(turn);
    }
  }
}
