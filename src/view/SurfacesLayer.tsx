import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { surfaceMatrix } from '@/core/mesh/surface';
import { useDocument } from '@/store/document';
import { useMeshes } from './useMeshes';

/** The surfaces of the scene. */
export function SurfacesLayer() {
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const surfaces = useDocument((s) => s.scene.surfaces);
  const wanted = useMemo(
    () =>
      surfaces.map((s) => ({
        id: s.id,
        mesh: s.mesh,
        settings: JSON.stringify([s.unitScale, s.up, s.turnDeg, s.position]),
        matrix: () => surfaceMatrix(s),
      })),
    [surfaces],
  );
  const meshes = useMeshes(wanted, invalidate);
  useEffect(() => {
    gl.shadowMap.needsUpdate = true;
    invalidate();
  });
  return surfaces.map((s) => {
    const drawn = meshes.get(s.id);
    if (!drawn || !s.visible) return null;
    return (
      <mesh
        key={s.id}
        geometry={drawn.geometry}
        material={drawn.materials}
        receiveShadow
        castShadow
        userData={{ surface: s.id }}
        dispose={null}
      />
    );
  });
}
