import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { Group, Matrix4, Quaternion, Vector3 } from 'three';
import { propMatrix } from '@/core/mesh/mesh';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { peggedProp, standAt } from './pegTool';
import { useMeshes } from './useMeshes';
import { useView } from './viewState';

/** The prop of the peg tool, standing where a click would pin it. */
export function PegGhost() {
  const invalidate = useThree((s) => s.invalidate);
  const pegging = useView((s) => s.pegging);
  const on = useView((s) => s.tool === 'peg');
  // What is pegged follows the selection and the basket.
  useSelection((s) => s.node);
  const props = useDocument((s) => s.scene.props);
  const id = on ? peggedProp() : undefined;
  const prop = props.find((p) => p.id === id);
  const wanted = useMemo(
    () =>
      prop
        ? [
            {
              id: prop.id,
              mesh: prop.mesh,
              settings: JSON.stringify([prop.unitScale, prop.foot, prop.front, prop.up]),
              matrix: (bounds: Parameters<typeof propMatrix>[1]) => propMatrix(prop, bounds),
            },
          ]
        : [],
    [prop],
  );
  const drawn = useMeshes(wanted, invalidate).get(prop?.id ?? '');
  const group = useRef<Group>(null);
  const { ahead, size } = pegging;
  useEffect(() => {
    const to = group.current;
    if (to && ahead) {
      const { position, rotation } = standAt(ahead);
      to.matrix.compose(new Vector3(...position), new Quaternion(...rotation), new Vector3(size, size, size));
      to.matrixWorld.copy(new Matrix4().copy(to.matrix));
      to.updateMatrixWorld(true);
    }
    invalidate();
  });
  if (!on || !drawn || !ahead) return null;
  return (
    <group ref={group} matrixAutoUpdate={false}>
      <mesh geometry={drawn.geometry} material={drawn.materials} castShadow dispose={null} />
    </group>
  );
}
