import {
  Box3,
  DoubleSide,
  FrontSide,
  InstancedMesh,
  Vector3,
  type BufferAttribute,
  type BufferGeometry,
  type Camera,
  type DirectionalLight,
  type Material,
  type Mesh,
  type Object3D,
} from 'three';
import { largest } from '@/engine/blocks';
import { askSimpler, simplerOf } from '../many/simplers';

/** What casts shadows, and by which triangles: those cost as much as the pixels without a graphics card. */

/** Of fewer triangles than these, all instances together, nothing is gained by fewer still. */
const MANY = 1500;
/** A mesh of more has the worker busy for too long. */
const MOST = 100_000;
/** How far from itself something may cast, as a share of what a texel of its shadow is wide. */
const OFF = 0.5;

/** The geometry of something in as few triangles as its shadow shows. */
export function inFewer(caster: Mesh, light: DirectionalLight): BufferGeometry {
  const { geometry } = caster;
  const triangles = (geometry.getIndex()?.count ?? 0) / 3;
  const instances = caster instanceof InstancedMesh ? caster.count : 1;
  if (triangles * instances < MANY || triangles > MOST) return geometry;
  const { left, right } = light.shadow.camera;
  const most = (OFF * (right - left)) / light.shadow.mapSize.x;
  // By powers of two, so that a scene that grows a little asks for nothing anew.
  const within = 2 ** Math.floor(Math.log2(most / sizeOf(caster)));
  void askSimpler(geometry, undefined, within);
  return simplerOf(geometry, within)?.geometry ?? geometry;
}

/** The greatest size factor that something is drawn by. */
function sizeOf(mesh: Mesh): number {
  const own = mesh.matrixWorld.getMaxScaleOnAxis();
  return mesh instanceof InstancedMesh ? own * sizeOfInstances(mesh) : own;
}

const sizeOfInstances = asLongAs(
  (mesh: InstancedMesh) => mesh.instanceMatrix.version,
  ({ instanceMatrix, count }) => largest(instanceMatrix.array as Float32Array, 0, count),
);

/** What something is, found again only when its version has changed. */
function asLongAs<Of extends object, Is>(
  versionOf: (of: Of) => number,
  find: (of: Of) => Is,
): (of: Of) => Is {
  const found = new WeakMap<Of, { version: number; is: Is }>();
  return (of) => {
    const version = versionOf(of);
    let have = found.get(of);
    if (have?.version !== version) found.set(of, (have = { version, is: find(of) }));
    return have.is;
  };
}

const box = new Box3();
const eye = new Vector3();

/**
 * Whether all that something shades is under it, where it cannot be seen: a level sheet without holes, such as open
 * water, lit and looked at from above, that reaches beyond all that has a shadow.
 */
export function shadesUnseen(o: Object3D, camera: Camera, light: DirectionalLight): boolean {
  const mesh = o as Mesh;
  if (o instanceof InstancedMesh || !('isPerspectiveCamera' in camera)) return false;
  const up = sheetUp(mesh.geometry) * Math.sign(mesh.matrixWorld.elements[5]);
  const hides = ({ side, transparent, alphaTest }: Material) =>
    !transparent && alphaTest === 0 && (side === DoubleSide || up === (side === FrontSide ? 1 : -1));
  if (up === 0 || ![mesh.material].flat().every(hides)) return false;
  box.copy(mesh.geometry.boundingBox!).applyMatrix4(mesh.matrixWorld);
  const { min, max } = box;
  if (max.y - min.y > FLAT * (max.x - min.x)) return false;
  eye.setFromMatrixPosition(camera.matrixWorld);
  const { target, position, shadow } = light;
  const at = target.position;
  // What is just beyond the sphere of the shadow may lie in it too.
  const far = 2 * shadow.camera.right;
  return (
    [eye.y, position.y].every((y) => y > max.y) &&
    (['x', 'z'] as const).every(
      (a) => min[a] < Math.min(eye[a], at[a] - far) && max[a] > Math.max(eye[a], at[a] + far),
    )
  );
}

/** Level is what is no higher than so much of its width. */
const FLAT = 1e-6;

/** Whether faces, level, fill the rectangle around them: 1 where they look up, -1 where they look down, 0 where not. */
const sheetUp = asLongAs(
  (geometry: BufferGeometry) => (geometry.getAttribute('position') as BufferAttribute).version,
  (geometry) => {
    if (!geometry.boundingBox) geometry.computeBoundingBox();
    const { min, max } = geometry.boundingBox!;
    const width = max.x - min.x;
    if (max.y - min.y > FLAT * width) return 0;
    const position = geometry.getAttribute('position');
    const index = geometry.getIndex();
    let area = 0;
    for (let i = 0; i < (index?.count ?? 0); i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => index!.getX(i + k));
      const [ux, uz] = [position.getX(b) - position.getX(a), position.getZ(b) - position.getZ(a)];
      const [vx, vz] = [position.getX(c) - position.getX(a), position.getZ(c) - position.getZ(a)];
      area += (uz * vx - ux * vz) / 2;
    }
    const all = width * (max.z - min.z);
    return Math.abs(Math.abs(area) - all) <= 1e-4 * all ? Math.sign(area) : 0;
  },
);
