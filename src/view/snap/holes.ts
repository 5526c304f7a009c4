import { Box3, InstancedMesh, Matrix4, Vector3, type BufferGeometry, type Mesh } from 'three';
import type { Vec3 } from '@/core/math/vec3';
import { holesOf, type Hole } from '@/core/mesh/lines/holes';
import { pickFrustum } from '../near';
import { eachInstance, targetsIn, type InstancePick } from '../pick';
import { toScreen } from '../project';
import type { ViewHandle } from '../handle';

/** Middles of holes and rings of what is seen. */

/** Meshes of more faces are not looked through for holes. */
const MOST_FACES = 4000;

export interface HolePlace {
  kind: 'hole';
  at: Vec3;
  /** Square to its rim; to the side that is turned to the eye. */
  normal: Vec3;
  label: string;
  /** The placed prop that it is of; absent for a surface's. */
  of?: ReturnType<InstancePick>;
}

const known = new WeakMap<BufferGeometry, Hole[]>();

function holesIn(geometry: BufferGeometry): Hole[] {
  let have = known.get(geometry);
  if (!have) {
    const { index } = geometry;
    const position = geometry.getAttribute('position');
    have =
      !index || index.count / 3 > MOST_FACES
        ? []
        : holesOf({ positions: position.array as Float32Array, indices: Uint32Array.from(index.array) });
    known.set(geometry, have);
  }
  return have;
}

const matrix = new Matrix4();
const own = new Matrix4();
const at = new Vector3();
const reach = new Box3();

/** Middles of holes near a pixel: one sees through them, so that nothing of them need lie under it. */
export function holesNear(view: ViewHandle, x: number, y: number, pixels: number): HolePlace[] {
  const found: HolePlace[] = [];
  const within = pickFrustum(view, x, y, pixels);
  const meets = (box: Box3) => within.intersectsBox(box);
  for (const object of targetsIn(view, 'all') as Mesh[]) {
    const instance = object.userData.pick as InstancePick | undefined;
    // Holes are looked for in what is near for the first time.
    const look = (i?: number) => {
      for (const { centre, normal } of holesIn(object.geometry)) {
        if (!within.containsPoint(at.set(...centre).applyMatrix4(matrix))) continue;
        const p = toScreen(view, at.toArray());
        if (Math.hypot(p.x - x, p.y - y) > pixels) continue;
        const way = new Vector3(...normal).transformDirection(matrix);
        if (way.dot(at.clone().sub(view.camera.position)) > 0) way.negate();
        const of = i === undefined ? undefined : instance?.(i);
        found.push({
          kind: 'hole',
          at: at.toArray(),
          normal: way.toArray(),
          label: 'Middle of a hole',
          ...(of && { of }),
        });
      }
    };
    matrix.copy(object.matrixWorld);
    if (!(object instanceof InstancedMesh)) {
      if (!object.geometry.boundingBox) object.geometry.computeBoundingBox();
      if (meets(reach.copy(object.geometry.boundingBox!).applyMatrix4(matrix))) look();
    } else
      eachInstance(object, meets, (i) => {
        object.getMatrixAt(i, own);
        matrix.multiplyMatrices(object.matrixWorld, own);
        look(i);
      });
  }
  return found;
}
