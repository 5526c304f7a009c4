import { AmbientLight, DirectionalLight } from 'three';

/** The light of everything that is drawn: the scene, and small pictures of props. Colours are sRGB. */

export type Hour = 'day' | 'dusk';

export interface SceneLight {
  /** `towards` it; not of unit length. */
  sun: { color: string; intensity: number; towards: readonly [number, number, number] };
  /** A dome of one brightness above the horizon, and the ground that throws light back below it. */
  sky: { color: string; ground: string; intensity: number };
  /** What one sees of the sky, and what smooth things mirror: overhead, halfway, at the horizon, below it. */
  dome: { overhead: string; halfway: string; horizon: string; below: string; glow: string };
}

/** How wide the sun's disc is, degrees. It is larger than the real one's half degree: the air of a harbour is hazy. */
export const SUN_WIDE_DEG = 2;

const LIGHTS: Record<Hour, SceneLight> = {
  day: {
    sun: { color: '#fff1dc', intensity: 2.1, towards: [-0.9, 1.25, -0.35] },
    sky: { color: '#eef4f6', ground: '#c9b79a', intensity: 1.75 },
    dome: {
      overhead: '#a9c6d6',
      halfway: '#cfdfe4',
      horizon: '#eee9df',
      below: '#f4eee2',
      glow: '#fff1dc',
    },
  },
  dusk: {
    sun: { color: '#ff9d62', intensity: 1.5, towards: [-1, 0.36, 0.3] },
    sky: { color: '#9db0cc', ground: '#6a5f72', intensity: 1.3 },
    dome: {
      overhead: '#22344a',
      halfway: '#5f6f8a',
      horizon: '#dfa585',
      below: '#3a4352',
      glow: '#ffab70',
    },
  },
};

let hour: Hour = 'day';
const told = new Set<() => void>();

/** The light that the scene is drawn in now. */
export const sceneLight = (): SceneLight => LIGHTS[hour];

/** Lets it become another hour; whoever keeps something of the light is told. */
export function setHour(next: Hour): void {
  if (next === hour) return;
  hour = next;
  for (const tell of told) tell();
}

/** Calls when the light changes. @returns no longer */
export function onLight(tell: () => void): () => void {
  told.add(tell);
  return () => void told.delete(tell);
}

/** The light that props are pictured in: from the front, so that nothing in a small picture is dark. */
export function studioLight(): [AmbientLight, DirectionalLight] {
  const sun = new DirectionalLight('#fff4e2', 2.6);
  sun.position.set(-2, 4, 3);
  return [new AmbientLight('#ffffff', 1.4), sun];
}
