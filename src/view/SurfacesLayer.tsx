import { takenBy } from '@/core/evaluate/gathered/takes';
import { isOwnMesh } from '@/core/mesh/meshRef';
import { useThree } from '@react-three/fiber';
import { shadowsAnew } from './coarse';
import { Fragment, useEffect, useMemo } from 'react';
import type { Mesh } from 'three';
import { surfaceMatrix } from '@/core/mesh/surface';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { drawnWardrobe, inMaterial } from './dressing';
import { setStamps } from './stamps/stampMaterial';
import { useStamps } from './stamps/useStamps';
import { inMaps } from './inMaps';
import { useMeshes } from './useMeshes';
import { SurfaceMarks } from './SurfaceMarks';
import { useShapes } from './useShapes';
import { useView } from './viewState';

/** The surfaces of the scene: meshes as they were brought in, and those that were made or deformed. */
export function SurfacesLayer() {
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const surfaces = useDocument((s) => s.scene.surfaces);
  const materials = useDocument((s) => s.scene.materials);
  const served = useEngine((s) => s.result.surfaces);
  const wanted = useMemo(
    () =>
      surfaces.flatMap((s) => {
        const { mesh } = s;
        if (!isOwnMesh(mesh) || served.get(s.id)?.plain === false) return [];
        const settings = JSON.stringify([
          s.unitScale,
          s.up,
          s.turnDeg,
          s.tipDeg,
          s.rollDeg,
          s.size,
          s.position,
        ]);
        return [{ id: s.id, mesh, settings, matrix: () => surfaceMatrix(s) }];
      }),
    [surfaces, served],
  );
  const marks = useView((s) => s.marks);
  const meshes = useMeshes(wanted, invalidate);
  const shapes = useShapes(served, invalidate);
  useEffect(() => {
    shadowsAnew(gl);
    invalidate();
  });
  const from = drawnWardrobe(materials);
  const stamps = useStamps(invalidate);
  return surfaces.map((s) => {
    const shape = shapes.get(s.id);
    const own = shape ?? meshes.get(s.id);
    if (!own || !s.visible) return null;
    const drawn = inMaps(inMaterial(own, s.material, from, null, invalidate), s.baked, invalidate);
    for (const material of drawn.materials) setStamps(material, stamps.get(s.id) ?? null);
    const shown = marks[s.id] ?? 'none';
    return (
      <Fragment key={`${s.id} ${shape ? 'shape' : 'mesh'}`}>
        <mesh
          ref={(mesh: Mesh | null) => {
            // What was made lies in the surface's own frame; a mesh brought in has its place in its vertices.
            if (mesh && shape) {
              mesh.matrix.fromArray(Array.from(shape.matrix));
              mesh.updateMatrixWorld(true);
            }
          }}
          matrixAutoUpdate={!shape}
          geometry={drawn.geometry}
          material={drawn.materials}
          receiveShadow
          castShadow
          userData={{ surface: s.id, faces: served.get(s.id)?.faces, gathered: takenBy(s).length > 0 }}
          dispose={null}
        />
        {shown !== 'none' && (
          <SurfaceMarks
            geometry={drawn.geometry}
            matrix={shape?.matrix ?? null}
            kind={shown}
            version={served.get(s.id)?.key ?? ''}
          />
        )}
      </Fragment>
    );
  });
}
