import { useEffect, useMemo, useRef } from 'react';
import type { BufferAttribute } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import type { ServedSurface } from '@/engine/served';
import { disposeDrawn, drawnMesh, type DrawnMesh } from './sceneMeshes';

export interface DrawnShape extends DrawnMesh {
  /** From its own frame to the scene, column-major. */
  matrix: ArrayLike<number>;
}

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** Drawn meshes of the surfaces that were made or deformed, by id. While only their vertices move they stay the same. */
export function useShapes(served: Map<string, ServedSurface>, redraw: () => void): Map<string, DrawnShape> {
  const have = useRef(new Map<string, { key: string; facesKey: string; drawn: DrawnMesh }>());
  const shapes = useMemo(() => {
    const out = new Map<string, DrawnShape>();
    for (const [id, s] of served) {
      if (s.plain || !s.rest || !s.positions || !s.normals) continue;
      let kept = have.current.get(id);
      if (
        kept?.facesKey !== s.facesKey ||
        kept.drawn.geometry.getAttribute('position').count * 3 !== s.positions.length
      ) {
        const old = kept?.drawn;
        if (old) setTimeout(() => disposeDrawn(old), 1000);
        const drawn = drawnMesh({ ...s.rest, positions: s.positions, normals: s.normals }, SAME, redraw);
        have.current.set(id, (kept = { key: s.key, facesKey: s.facesKey, drawn }));
      } else if (kept.key !== s.key) {
        moveVertices(kept.drawn, s.positions, s.normals);
        kept.key = s.key;
      }
      out.set(id, { ...kept.drawn, matrix: s.matrix });
    }
    return out;
  }, [served, redraw]);
  useEffect(() => {
    for (const [id, { drawn }] of have.current) {
      if (shapes.has(id)) continue;
      have.current.delete(id);
      setTimeout(() => disposeDrawn(drawn), 1000);
    }
  }, [shapes]);
  return shapes;
}

function moveVertices({ geometry }: DrawnMesh, positions: Float32Array, normals: Float32Array): void {
  for (const [name, values] of [
    ['position', positions],
    ['normal', normals],
  ] as const) {
    const attribute = geometry.getAttribute(name) as BufferAttribute;
    (attribute.array as Float32Array).set(values);
    attribute.needsUpdate = true;
  }
  (geometry as typeof geometry & { boundsTree?: MeshBVH }).boundsTree?.refit();
  geometry.computeBoundingSphere();
  geometry.boundingBox = null;
}
