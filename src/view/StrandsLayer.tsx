import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments } from 'three';
import { has, type Arrangement } from '@/core/arrange/registry';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from './colors';

const isBare = (a: Arrangement): boolean => has(a, 'hang') && a.props.length === 0;

/**
 * Bare lines that arrangements hang, each arrangement's as one, on its thread or in the colour of what it wears, and
 * those in the copies of bundles that they have placed. What has a body along it is drawn as a prop is.
 */
export function StrandsLayer() {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const materials = useDocument((s) => s.scene.materials);
  return arrangements.map((a) => {
    if (!a.visible) return null;
    const worn = materials.find((m) => m.id === a.material)?.color;
    return <Lines key={a.id} id={a.id} color={worn ?? THREAD_COLORS[a.thread]} bare={isBare(a)} />;
  });
}

const Lines = memo(function Lines({ id, color, bare }: { id: string; color: string; bare: boolean }) {
  const invalidate = useThree((s) => s.invalidate);
  const lines = useEngine((s) => {
    const result = s.result.arrangements.get(id);
    return bare ? result?.lines : result?.inside?.lines;
  });
  const drawn = useMemo(() => {
    if (!lines || lines.slot.length === 0) return null;
    const { each, position, slot } = lines;
    const indices = new Uint32Array(slot.length * (each - 1) * 2);
    let at = 0;
    for (let k = 0; k < slot.length; k++)
      for (let i = 0; i < each - 1; i++) {
        indices[at++] = k * each + i;
        indices[at++] = k * each + i + 1;
      }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(position, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    return new LineSegments(geometry, new LineBasicMaterial({ color, toneMapped: false }));
  }, [lines, color]);
  useEffect(() => {
    invalidate();
    return () => {
      drawn?.geometry.dispose();
      (drawn?.material as LineBasicMaterial | undefined)?.dispose();
      invalidate();
    };
  }, [drawn, invalidate]);
  return drawn && <primitive object={drawn} dispose={null} />;
});
