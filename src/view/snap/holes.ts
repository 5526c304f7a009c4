import { InstancedMesh, Matrix4, Vector3, type BufferGeometry, type Mesh } from 'three';
import type { Vec3 } from '@/core/math/vec3';
import { holesOf, type Hole } from '@/core/mesh/lines/holes';
import { targetsIn, type InstancePick } from '../pick';
import { toScreen } from '../project';
import type { ViewHandle } from '../handle';

/** Middles of holes and rings of what is seen. */

/** Meshes of more faces are not looked through for holes. */
const MOST_FACES = 4000;
/** More copies are not: they would lie closer than anyone can point. */
const MOST_COPIES = 20_000;

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

/** Middles of holes near a pixel: one sees through them, so that nothing of them need lie under it. */
export function holesNear(view: ViewHandle, x: number, y: number, pixels: number): HolePlace[] {
  const found: HolePlace[] = [];
  const matrix = new Matrix4();
  for (const object of targetsIn(view, 'all')) {
    const { geometry } = object as Mesh;
    const holes = holesIn(geometry);
    if (holes.length === 0) continue;
    const many = object instanceof InstancedMesh ? object : null;
    if (many && many.count > MOST_COPIES) continue;
    for (let i = 0; i < (many?.count ?? 1); i++) {
      matrix.copy(object.matrixWorld);
      if (many) {
        many.getMatrixAt(i, own);
        matrix.multiply(own);
      }
      for (const { centre, normal } of holes) {
        const at = new Vector3(...centre).applyMatrix4(matrix);
        const p = toScreen(view, at.toArray());
        if (!p.ahead || Math.hypot(p.x - x, p.y - y) > pixels) continue;
        const way = new Vector3(...normal).transformDirection(matrix);
        if (way.dot(at.clone().sub(view.camera.position)) > 0) way.negate();
        const instance = object.userData.pick as InstancePick | undefined;
        found.push({
          kind: 'hole',
          at: at.toArray(),
          normal: way.toArray(),
          label: 'Middle of a hole',
          ...(instance && { of: instance(i) }),
        });
      }
    }
  }
  return found;
}
const own = new Matrix4();
