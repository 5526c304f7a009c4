import {
  Box3,
  InstancedMesh,
  Matrix4,
  Mesh,
  Triangle,
  Vector3,
  type Intersection,
  type Object3D,
} from 'three';
import { acceleratedRaycast } from 'three-mesh-bvh';
import type { Vec3 } from '@/core/math/vec3';
import { rayAt } from './project';
import type { ViewHandle } from '@/view/handle';

/** What an instance stands for, read when something is picked. */
export type InstancePick = (instance: number) => PickedProp;

/** A placed prop; in a copy of a bundle that copy, and the row of what it holds. */
interface PickedProp {
  arrangement: string;
  slot: number;
  inside?: number;
}

Mesh.prototype.raycast = acceleratedRaycast;

/** Instances that follow each other, and where they reach to in the space of their mesh. */
export interface Stretch {
  box: Box3;
  start: number;
  count: number;
}

/** Of what is drawn together for many arrangements: the instances of each. */
export type Stretches = () => Iterable<Stretch>;

const reach = new Box3();

/** Calls `visit` with every instance that may reach into what `meets` tells of boxes of the scene, and with some others. */
export function eachInstance(
  mesh: InstancedMesh,
  meets: (box: Box3) => boolean,
  visit: (i: number) => void,
): void {
  const { stretches } = mesh.userData as { stretches?: Stretches };
  if (!mesh.boundingBox) mesh.computeBoundingBox();
  const all = [{ box: mesh.boundingBox!, start: 0, count: mesh.count }];
  if (!meets(reach.copy(mesh.boundingBox!).applyMatrix4(mesh.matrixWorld))) return;
  for (const { box, start, count } of stretches?.() ?? all)
    if (!stretches || meets(reach.copy(box).applyMatrix4(mesh.matrixWorld)))
      for (let i = start; i < start + count; i++) visit(i);
}

const one = new Mesh();
const own = new Matrix4();
const met: Intersection[] = [];

/** As three's own, but a row of things fills little of the sphere around it: their boxes leave most of them out. */
InstancedMesh.prototype.raycast = function (this: InstancedMesh, raycaster, hits) {
  one.geometry = this.geometry;
  one.material = this.material;
  eachInstance(
    this,
    (box) => raycaster.ray.intersectsBox(box),
    (i) => {
      this.getMatrixAt(i, own);
      one.matrixWorld.multiplyMatrices(this.matrixWorld, own);
      one.raycast(raycaster, met);
      for (const hit of met) hits.push({ ...hit, instanceId: i, object: this });
      met.length = 0;
    },
  );
};

export type Hit =
  ({ kind: 'prop'; point: Vec3 } & PickedProp) | { kind: 'surface'; id: string; point: Vec3; normal: Vec3 };

/** What of the view can be met by a ray: surfaces, what is placed, or both. */
export function targetsIn(view: ViewHandle, want: 'all' | 'surfaces' | 'props'): Object3D[] {
  const targets: Object3D[] = [];
  const look = (o: Object3D) => {
    // Aids and the background, a thousand paths among them, hold nothing that is meant.
    if (!o.visible || o.userData.aid || o.userData.background) return;
    const meant = (want !== 'props' && o.userData.surface) || (want !== 'surfaces' && o.userData.pick);
    if (meant) targets.push(o);
    o.children.forEach(look);
  };
  look(view.scene);
  return targets;
}

/** From what was hit, its instance of many, to the scene. */
export function matrixOf({ object, instanceId }: Intersection): Matrix4 {
  const matrix = object.matrixWorld.clone();
  if (!(object instanceof InstancedMesh) || instanceId === undefined) return matrix;
  const own = new Matrix4();
  object.getMatrixAt(instanceId, own);
  return matrix.multiply(own);
}

/** What is under a pixel of the view, nearest first. */
export function pick(view: ViewHandle, x: number, y: number, want: 'all' | 'surfaces' = 'all'): Hit | null {
  const hits: Intersection[] = rayAt(view, x, y).intersectObjects(targetsIn(view, want), false);
  for (const hit of hits) {
    const { pick: instance, surface } = hit.object.userData as { pick?: InstancePick; surface?: string };
    const point: Vec3 = [hit.point.x, hit.point.y, hit.point.z];
    if (instance && hit.instanceId !== undefined) {
      return { kind: 'prop', ...instance(hit.instanceId), point };
    }
    if (surface) {
      const n = hit.face?.normal.clone().transformDirection(hit.object.matrixWorld);
      return { kind: 'surface', id: surface, point, normal: n ? [n.x, n.y, n.z] : [0, 1, 0] };
    }
  }
  return null;
}

/** A place on a surface: which triangle, where on it, and that triangle as it stands in the scene. */
export interface SurfacePlace {
  surface: string;
  face: number;
  u: number;
  v: number;
  /** Triangles of the whole surface. */
  faces: number;
  uv?: [number, number];
  at: Vec3;
  /** The triangle alone: its number here is 0. */
  around: { positions: Float64Array; normals: Float64Array; indices: Uint32Array };
}

const TRIANGLE = Uint32Array.of(0, 1, 2);

/**
 * The place of a surface under a pixel; props in front of it are looked through.
 * @param meant a place of the scene that is meant by the pixel: on the face there, what lies nearest to it
 */
export function pickPlace(view: ViewHandle, x: number, y: number, meant?: Vec3): SurfacePlace | null {
  const hit = rayAt(view, x, y).intersectObjects(targetsIn(view, 'surfaces'), false)[0];
  if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
  const mesh = hit.object as Mesh;
  const { geometry } = mesh;
  const index = geometry.getIndex()!;
  // Of a shell both sides are the same faces; its rim is no place to stand on.
  const faces = (mesh.userData.faces as number | undefined) ?? index.count / 3;
  if (hit.faceIndex >= 2 * faces) return null;
  const face = hit.faceIndex % faces;
  const corners = [0, 1, 2].map((k) => index.getX(face * 3 + k));
  const place = (name: 'position' | 'normal', k: number) =>
    new Vector3().fromBufferAttribute(geometry.getAttribute(name), corners[k]);
  const [a, b, c] = [0, 1, 2].map((k) => place('position', k).applyMatrix4(mesh.matrixWorld));
  const normals = [0, 1, 2].map((k) => place('normal', k).transformDirection(mesh.matrixWorld));
  const aimed = meant ? new Vector3(...meant) : hit.point;
  const on =
    meant || face !== hit.faceIndex ? new Triangle(a, b, c).closestPointToPoint(aimed, new Vector3()) : aimed;
  const weights = Triangle.getBarycoord(on, a, b, c, new Vector3());
  if (!weights) return null;
  const [, u, v] = weights.toArray();
  const uvs = geometry.getAttribute('uv');
  const uv = uvs
    ? ([0, 1].map((i) =>
        corners.reduce((sum, corner, k) => sum + uvs.getComponent(corner, i) * weights.getComponent(k), 0),
      ) as [number, number])
    : undefined;
  return {
    surface: mesh.userData.surface as string,
    face,
    u,
    v,
    faces,
    uv,
    at: [on.x, on.y, on.z],
    around: {
      positions: Float64Array.from([a, b, c].flatMap((p) => p.toArray())),
      normals: Float64Array.from(normals.flatMap((n) => n.toArray())),
      indices: TRIANGLE,
    },
  };
}
