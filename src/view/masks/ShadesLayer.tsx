import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color, Mesh, MeshBasicMaterial } from 'three';
import { surfacesOfMask } from '@/core/evaluate/masksUsed';
import type { MaskShades } from '@/core/mesh/mask/shades';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { useView, waitFor } from '../viewState';
import { useShades } from './shadesState';

/** The mask that is shown: the one that was asked for, or the one in hand. */
export function useShownMask(): string | null {
  const asked = useView((s) => s.shades);
  const inHand = useSelection((s) => (s.node?.kind === 'mask' ? s.node.id : null));
  return asked ?? inHand;
}

/** Has the shades of a mask on its surfaces worked out as those are now; only the latest answer counts. */
function useWorkedShades(mask: string | null): readonly MaskShades[] {
  const scene = useDocument((s) => s.scene);
  const key = useEngine((s) => (mask ? s.result.masks.get(mask)?.key : undefined));
  const found = mask ? scene.masks.find((m) => m.id === mask) : undefined;
  const names = (found ? surfacesOfMask(scene, found) : []).join('\n');
  const stands = useEngine((s) =>
    names
      .split('\n')
      .map((id) => s.result.surfaces.get(id)?.key)
      .join('\n'),
  );
  useEffect(() => {
    let current = true;
    const ids = names === '' ? [] : names.split('\n');
    if (!mask || key === undefined || ids.length === 0) useShades.setState({ list: [] });
    else
      void waitFor(
        Promise.all(
          ids.map((id) =>
            engine()
              .maskShades(mask, id)
              .catch(() => null),
          ),
        ),
      ).then((made) => {
        if (current) useShades.setState({ list: made.filter((s) => s !== null) });
      });
    return () => {
      current = false;
    };
  }, [mask, key, names, stands]);
  return useShades((s) => s.list);
}

/** Where it is nothing, and where it is all there. */
const NONE = new Color('#1E2A36');
const ALL = new Color('#D6A02B');

function meshOf({ positions, values, indices }: MaskShades): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  const colors = new Float32Array(values.length * 4);
  const color = new Color();
  values.forEach((v, i) => {
    color.lerpColors(NONE, ALL, v);
    // The ground is seen through it.
    colors.set([color.r, color.g, color.b, 0.55], i * 4);
  });
  geometry.setAttribute('color', new BufferAttribute(colors, 4));
  const mesh = new Mesh(
    geometry,
    new MeshBasicMaterial({
      vertexColors: true,
      transparent: true,
      side: 2,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -2,
      polygonOffsetUnits: -2,
      toneMapped: false,
    }),
  );
  mesh.renderOrder = 1;
  return mesh;
}

/** A mask in shades over its surfaces. */
export function ShadesLayer() {
  const invalidate = useThree((s) => s.invalidate);
  const shades = useWorkedShades(useShownMask());
  const meshes = useMemo(() => shades.map(meshOf), [shades]);
  useEffect(() => {
    invalidate();
    return () => {
      for (const mesh of meshes) {
        mesh.geometry.dispose();
        (mesh.material as MeshBasicMaterial).dispose();
      }
      invalidate();
    };
  }, [meshes, invalidate]);
  return meshes.map((mesh) => <primitive key={mesh.uuid} object={mesh} dispose={null} />);
}
