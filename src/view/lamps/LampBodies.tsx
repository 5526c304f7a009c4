import { useMemo } from 'react';
import { CircleGeometry, Color, DoubleSide, MeshBasicMaterial, SphereGeometry, Vector3 } from 'three';
import { colorOfWarmth } from '@/core/light/warmth';
import type { PlacedLamp } from './LampLights';

/** Smaller ones are drawn as large as this, metres across, so that they can be seen at all. */
const LEAST = 0.04;
/** How much brighter than white paper in the sun a light is drawn, at most. */
const BRIGHT = 4;

/** The lights put in by hand that are to be seen. */
export const LampBodies = ({ lamps }: { lamps: readonly PlacedLamp[] }) =>
  lamps.filter((l) => l.on && l.seen).map((lamp) => <Body key={lamp.id} lamp={lamp} />);

function Body({ lamp }: { lamp: PlacedLamp }) {
  const isBall = lamp.kind === 'point';
  const geometry = useMemo(
    () => (isBall ? new SphereGeometry(0.5, 24, 16) : new CircleGeometry(0.5, 40)),
    [isBall],
  );
  const { warmth, strength } = lamp;
  const material = useMemo(
    () =>
      new MeshBasicMaterial({
        color: new Color(...colorOfWarmth(warmth)).multiplyScalar(Math.min(BRIGHT, strength * BRIGHT)),
        side: DoubleSide,
      }),
    [warmth, strength],
  );
  return (
    <mesh
      geometry={geometry}
      material={material}
      position={lamp.at}
      scale={Math.max(LEAST, lamp.size)}
      onUpdate={(mesh) => mesh.lookAt(new Vector3(...lamp.aim))}
    />
  );
}
