import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { LampBodies } from './LampBodies';
import { LampLights } from './LampLights';
import { glowingCopies } from './glowingCopies';
import { usePlacedLamps } from './usePlacedLamps';
import { lampsOf } from '@/core/light/glowing';

/** The lights put in by hand, and those of props that glow. */
export function Lamps() {
  const { scene, invalidate } = useThree();
  const lights = useMemo(() => new LampLights(), []);
  const placed = usePlacedLamps();
  const props = useDocument((s) => s.scene.props);
  const materials = useDocument((s) => s.scene.materials);
  const glows = [...props, ...materials].some((n) => n.glow !== null);
  const results = useEngine((s) => (glows ? s.result.arrangements : null));
  const bounds = useEngine((s) => s.result.propBounds);
  const arrangements = useEngine((s) => s.scene?.arrangements);
  useEffect(() => {
    lights.setOwn(placed.filter((l) => l.on && l.strength > 0));
    invalidate();
  }, [lights, placed, invalidate]);
  useEffect(() => {
    const hidden = new Set(arrangements?.filter((a) => !a.visible).map((a) => a.id));
    const scene = { props, materials, arrangements: arrangements ?? [] };
    lights.setGlowing(lampsOf(results ? glowingCopies(scene, results, hidden, bounds) : []));
    invalidate();
  }, [lights, props, materials, results, arrangements, bounds, invalidate]);
  useEffect(() => {
    scene.add(lights);
    return () => {
      scene.remove(lights);
      lights.dispose();
    };
  }, [lights, scene]);
  return <LampBodies lamps={placed} />;
}
