import { AmbientLight, DirectionalLight } from 'three';

/** The light of everything that is drawn: the scene, and small pictures of props. Colours are sRGB. */

/** Evening light from one side. Its disc is larger than the real one's half degree: the air of a harbour is hazy. */
export const SUN = {
  color: '#fff1dc',
  intensity: 2.1,
  /** Towards it; not of unit length. */
  towards: [-0.9, 1.25, -0.35],
  /** Degrees that its disc is wide. */
  wideDeg: 2,
} as const;

/** A dome of one brightness above the horizon, and the ground that throws light back below it. */
export const SKY = { color: '#eef4f6', ground: '#c9b79a', intensity: 1.75 } as const;

/** The light that props are pictured in: from the front, so that nothing in a small picture is dark. */
export function studioLight(): [AmbientLight, DirectionalLight] {
  const sun = new DirectionalLight('#fff4e2', 2.6);
  sun.position.set(-2, 4, 3);
  return [new AmbientLight('#ffffff', 1.4), sun];
}
