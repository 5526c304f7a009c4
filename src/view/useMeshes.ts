import { useEffect, useRef, useState } from 'react';
import type { MeshRef } from '@/core/mesh/meshRef';
import { meshBounds, type Bounds, type Mesh } from '@/core/mesh/mesh';
import { engine } from '@/store/engine';
import { disposeDrawn, drawnMesh, type DrawnMesh } from './sceneMeshes';
import { waitFor } from './viewState';

interface Wanted {
  id: string;
  mesh: MeshRef;
  /** Everything that the matrix depends on, as text. */
  settings: string;
  matrix: (bounds: Bounds) => ArrayLike<number>;
}

/** Drawn meshes for nodes, by id; made when a node's mesh or settings change and let go when it leaves. */
export function useMeshes(wanted: Wanted[], redraw: () => void): Map<string, DrawnMesh> {
  const have = useRef(new Map<string, { key: string; drawn: DrawnMesh }>());
  const [, setCount] = useState(0);
  const signature = JSON.stringify(wanted.map((w) => [w.id, w.mesh, w.settings]));
  useEffect(() => {
    let current = true;
    const keyOf = (w: Wanted) => JSON.stringify([w.mesh, w.settings]);
    const load = async (w: Wanted) => {
      const mesh: Mesh | undefined = await engine().mesh(w.mesh);
      if (!mesh || mesh.indices.length < 3 || !current) return;
      const drawn = { ...drawnMesh(mesh, w.matrix(meshBounds(mesh)), redraw), ref: w.mesh };
      const old = have.current.get(w.id);
      have.current.set(w.id, { key: keyOf(w), drawn });
      if (old) setTimeout(() => disposeDrawn(old.drawn), 1000);
    };
    const fresh = wanted.filter((w) => have.current.get(w.id)?.key !== keyOf(w));
    // All at once, so that a scene that opens is drawn once and not once a mesh.
    if (fresh.length)
      void waitFor(Promise.all(fresh.map(load)).then(() => current && setCount((n) => n + 1)));
    for (const [id, { drawn }] of have.current) {
      if (wanted.some((w) => w.id === id)) continue;
      have.current.delete(id);
      setTimeout(() => disposeDrawn(drawn), 1000);
    }
    return () => {
      current = false;
    };
    // The signature stands for all of `wanted`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [signature]);
  return new Map([...have.current].map(([id, { drawn }]) => [id, drawn]));
}
