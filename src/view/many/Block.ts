import { InstancedMesh, type BufferGeometry, type Group, type Points } from 'three';
import { farPoints } from './farPoints';
import { boxLook, pointLook } from './looks';
import type { Level } from './plan';
import type { DrawnMesh } from '../sceneMeshes';

/** Layer of what is not drawn now; the pointer finds it there. */
const ASIDE = 1;

/**
 * Instances that are drawn alike: in full, from fewer triangles, as boxes or as points. Each is made when it is first
 * asked for, and all read the matrices of the first.
 */
export class Block {
  private simple: InstancedMesh | null = null;
  private boxes: InstancedMesh | null = null;
  private points: Points | null = null;

  constructor(
    private group: Group,
    readonly full: InstancedMesh,
    readonly drawn: DrawnMesh,
  ) {
    group.add(full);
  }

  /**
   * @param share of the points, how many are drawn
   * @param simpler its geometry in fewer triangles, as soon as there is one
   * @param asBoxes whether boxes stand for the meshes
   */
  show(level: Level, share: number, simpler: BufferGeometry | null, asBoxes: boolean): void {
    const mesh = level !== 'points';
    const simple = mesh && !asBoxes && level === 'simple' && simpler !== null;
    setShown(this.full, mesh && !asBoxes && !simple);
    if (simple) this.simple ??= this.instances(simpler, this.full.material);
    if (mesh && asBoxes) this.boxes ??= this.boxed();
    if (!mesh) this.points ??= this.pointed();
    for (const [object, on] of [
      [this.simple, simple],
      [this.boxes, mesh && asBoxes],
      [this.points, !mesh],
    ] as const)
      if (object) setShown(object, on);
    if (this.points) this.points.geometry.setDrawRange(0, Math.ceil(this.full.count * share));
    for (const other of [this.simple, this.boxes]) if (other) other.count = this.full.count;
  }

  /** Told when matrices, tints or their number changed: what was made of them is let go of. */
  changed(): void {
    for (const far of [this.simple, this.boxes, this.points]) if (far) this.drop(far);
    this.simple = this.boxes = null;
    this.points = null;
  }

  private instances(geometry: BufferGeometry, material: InstancedMesh['material']): InstancedMesh {
    const { full } = this;
    const mesh = new InstancedMesh(geometry, material, full.count);
    mesh.instanceMatrix = full.instanceMatrix;
    mesh.instanceColor = full.instanceColor;
    mesh.boundingSphere = full.boundingSphere;
    mesh.boundingBox = full.boundingBox;
    mesh.castShadow = full.castShadow;
    mesh.receiveShadow = full.receiveShadow;
    mesh.userData = { far: true, standsFor: full };
    mesh.raycast = () => {};
    this.group.add(mesh);
    return mesh;
  }

  private boxed(): InstancedMesh {
    const { geometry, material } = boxLook(this.drawn);
    return this.instances(geometry, material);
  }

  private pointed(): Points {
    const points = farPoints(this.full, pointLook(this.drawn));
    this.group.add(points);
    return points;
  }

  private drop(object: InstancedMesh | Points): void {
    this.group.remove(object);
    // All but the points' own lists is shared with other blocks.
    if (object === this.points) object.geometry.dispose();
  }

  dispose(): void {
    this.changed();
    this.group.remove(this.full);
    this.full.dispose();
  }
}

function setShown(object: InstancedMesh | Points, on: boolean): void {
  object.layers.set(on ? 0 : ASIDE);
}
