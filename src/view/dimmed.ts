import type { Material } from 'three';
import type { DrawnMesh } from './sceneMeshes';

const kept = new WeakMap<DrawnMesh, DrawnMesh>();

/** The same mesh as what stands back while a bundle is open: it is seen through. Made once. */
export function dimmed(drawn: DrawnMesh): DrawnMesh {
  let made = kept.get(drawn);
  if (!made) {
    const materials = drawn.materials.map((m): Material => {
      const clear = m.clone();
      clear.transparent = true;
      clear.opacity = 0.16;
      clear.depthWrite = false;
      return clear;
    });
    made = { ...drawn, materials };
    kept.set(drawn, made);
  }
  return made;
}
