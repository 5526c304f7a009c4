import { Matrix4, Vector4, type Camera, type Material, type Mesh, type Object3D, type Scene } from 'three';

const toScreen = new Matrix4();
const at = new Vector4();

/**
 * All that is drawn of a scene from there, in the order in which the library draws it: what is solid, the nearest first,
 * then what is seen through, the farthest first.
 */
export function drawablesOf(scene: Scene, camera: Camera): Object3D[] {
  toScreen.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
  const found: { o: Object3D; clear: boolean; z: number }[] = [];
  scene.traverseVisible((o) => {
    const own = (o as Mesh).material as Material | Material[] | undefined;
    if (!own || !o.layers.test(camera.layers)) return;
    at.setFromMatrixPosition(o.matrixWorld).applyMatrix4(toScreen);
    found.push({ o, clear: [own].flat().some((m) => m.transparent), z: at.z });
  });
  return found
    .sort(
      (a, b) =>
        Number(a.clear) - Number(b.clear) ||
        a.o.renderOrder - b.o.renderOrder ||
        (a.clear ? b.z - a.z : a.z - b.z) ||
        a.o.id - b.o.id,
    )
    .map(({ o }) => o);
}

/** Does something while only some of what is drawn is there. */
export function only(all: readonly Object3D[], from: number, to: number, work: () => void): void {
  const masks = all.map((o) => o.layers.mask);
  all.forEach((thing, k) => {
    if (k < from || k >= to) thing.layers.mask = 0;
  });
  try {
    work();
  } finally {
    all.forEach((thing, k) => {
      thing.layers.mask = masks[k];
    });
  }
}
