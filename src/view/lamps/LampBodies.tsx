import { useLayoutEffect, useRef } from 'react';
import { Color, DoubleSide, type Mesh } from 'three';
import { colorOfWarmth } from '@/core/light/warmth';
import type { PlacedLamp } from './LampLights';

/** Smaller ones are drawn as large as this, metres across, so that they can be seen at all. */
const LEAST = 0.04;
/** How much brighter than white paper in the sun a light is drawn, at most. */
const BRIGHT = 4;

/** The lights put in by hand that are to be seen. */
export const LampBodies = ({ lamps }: { lamps: readonly PlacedLamp[] }) =>
  lamps.filter((l) => l.on && l.seen).map((lamp) => <Body key={lamp.id} lamp={lamp} />);

function Body({ lamp: { kind, at, aim, size, warmth, strength } }: { lamp: PlacedLamp }) {
  const mesh = useRef<Mesh>(null);
  useLayoutEffect(() => mesh.current?.lookAt(...aim), [at, aim]);
  const color = new Color(...colorOfWarmth(warmth)).multiplyScalar(Math.min(BRIGHT, strength * BRIGHT));
  return (
    <mesh ref={mesh} position={at} scale={Math.max(LEAST, size)}>
      {kind === 'point' ? <sphereGeometry args={[0.5, 24, 16]} /> : <circleGeometry args={[0.5, 40]} />}
      <meshBasicMaterial color={color} side={DoubleSide} />
    </mesh>
  );
}
