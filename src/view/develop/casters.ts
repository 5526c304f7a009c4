import {
  Box3,
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

/** Does something while those that have more triangles than their shadow shows are drawn from fewer. */
export function inFewer(casters: readonly Object3D[], light: DirectionalLight, work: () => void): void {
  const { left, right } = light.shadow.camera;
  const most = (OFF * (right - left)) / light.shadow.mapSize.x;
  const were: [Mesh, BufferGeometry][] = [];
  for (const caster of casters as Mesh[]) {
    const { geometry } = caster;
    const triangles = (geometry.getIndex()?.count ?? 0) / 3;
    const instances = caster instanceof InstancedMesh ? caster.count : 1;
    if (triangles * instances < MANY || triangles > MOST) continue;
    void askSimpler(geometry);
    const simpler = simplerOf(geometry);
    if (!simpler || simpler.off * sizeOf(caster) > most) continue;
    were.push([caster, geometry]);
    caster.geometry = simpler.geometry;
  }
  try {
    work();
  } finally {
    for (const [caster, geometry] of were) caster.geometry = geometry;
  }
}

const sizes = new WeakMap<Mesh, { version: number; size: number }>();

/** The greatest size factor that something is drawn by. */
function sizeOf(mesh: Mesh): number {
  const own = mesh.matrixWorld.getMaxScaleOnAxis();
  if (!(mesh instanceof InstancedMesh)) return own;
  const { array, version } = mesh.instanceMatrix;
  let have = sizes.get(mesh);
  if (have?.version !== version)
    sizes.set(mesh, (have = { version, size: largest(array as Float32Array, 0, mesh.count) }));
  return own * have.size;
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
  if (
    !isSheet(mesh.geometry) ||
    [mesh.material].flat().some((m: Material) => m.transparent || m.alphaTest > 0)
  )
    return false;
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

/** Whether geometries are sheets, as their vertices were then. */
const sheets = new WeakMap<BufferGeometry, { version: number; is: boolean }>();

/** Whether the faces of something, level, fill the rectangle that is around it. */
function isSheet(geometry: BufferGeometry): boolean {
  const { version } = geometry.getAttribute('position') as BufferAttribute;
  let have = sheets.get(geometry);
  if (have?.version !== version) sheets.set(geometry, (have = { version, is: fillsItsBox(geometry) }));
  return have.is;
}

function fillsItsBox(geometry: BufferGeometry): boolean {
  if (!geometry.boundingBox) geometry.computeBoundingBox();
  const { min, max } = geometry.boundingBox!;
  const width = max.x - min.x;
  if (max.y - min.y > FLAT * width) return false;
  const position = geometry.getAttribute('position');
  const index = geometry.getIndex();
  let area = 0;
  for (let i = 0; i < (index?.count ?? 0); i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => index!.getX(i + k));
    const [ux, uz] = [position.getX(b) - position.getX(a), position.getZ(b) - position.getZ(a)];
    const [vx, vz] = [position.getX(c) - position.getX(a), position.getZ(c) - position.getZ(a)];
    area += Math.abs(ux * vz - uz * vx) / 2;
  }
  return Math.abs(area - width * (max.z - min.z)) <= 1e-4 * area;
}
