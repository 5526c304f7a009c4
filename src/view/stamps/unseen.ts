import type { DrawnMesh } from '../sceneMeshes';

const kept = new WeakMap<DrawnMesh, DrawnMesh>();

/** The same mesh as what is drawn into a surface instead: it is picked, and not seen. Made once. */
export function unseen(drawn: DrawnMesh): DrawnMesh {
  let made = kept.get(drawn);
  if (!made) {
    const materials = drawn.materials.map((m) => {
      const none = m.clone();
      none.visible = false;
      return none;
    });
    kept.set(drawn, (made = { ...drawn, materials }));
  }
  return made;
}
