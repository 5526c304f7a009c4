import { AmbientLight, Color, DirectionalLight } from 'three';
import { surroundSchema, type Surround } from '@/core/light/panoramaSchema';
import type { Light } from '@/core/light/schema';
import { sunShare, sunWay } from '@/core/light/sun';
import { colorOfWarmth } from '@/core/light/warmth';

/** The light of everything that is drawn: the scene, and small pictures of props. Colours are sRGB. */

export type Hour = 'day' | 'dusk';

export interface SceneLight {
  /** `towards` it; not of unit length. */
  sun: {
    color: string;
    intensity: number;
    towards: readonly [number, number, number];
    /** How wide its disc is, degrees. */
    wideDeg: number;
  };
  /** A dome of one brightness above the horizon, and the ground that throws light back below it. */
  sky: { color: string; ground: string; intensity: number };
  /** What one sees of the sky, and what smooth things mirror: overhead, halfway, at the horizon, below it. */
  dome: { overhead: string; halfway: string; horizon: string; below: string; glow: string };
  /** What is around, for what mirrors it. */
  surround: Surround;
  /** A halo around what is bright. */
  halo: { amount: number; reach: number };
  /** How bright its picture is; 1 is as it comes. */
  exposure: number;
  /** Whether that is on top of what is measured from the picture. */
  metered: boolean;
}

/** What of a light is no light of an hour. */
const PLAIN = {
  surround: surroundSchema.parse({}),
  halo: { amount: 0, reach: 0.5 },
  exposure: 1,
  metered: false,
};

/** How wide the sun's disc is, degrees. It is larger than the real one's half degree: the air of a harbour is hazy. */
const SUN_WIDE_DEG = 2;

const LIGHTS: Record<Hour, SceneLight> = {
  day: {
    sun: { color: '#fff1dc', intensity: 2.1, towards: [-0.9, 1.25, -0.35], wideDeg: SUN_WIDE_DEG },
    sky: { color: '#eef4f6', ground: '#c9b79a', intensity: 1.75 },
    dome: {
      overhead: '#a9c6d6',
      halfway: '#cfdfe4',
      horizon: '#eee9df',
      below: '#f4eee2',
      glow: '#fff1dc',
    },
    ...PLAIN,
  },
  dusk: {
    sun: { color: '#ff9d62', intensity: 1.5, towards: [-1, 0.36, 0.3], wideDeg: SUN_WIDE_DEG },
    sky: { color: '#9db0cc', ground: '#6a5f72', intensity: 1.3 },
    dome: {
      overhead: '#22344a',
      halfway: '#5f6f8a',
      horizon: '#dfa585',
      below: '#3a4352',
      glow: '#ffab70',
    },
    ...PLAIN,
  },
};

/** What a clear day's sun comes with: others are measured by it. */
export const SUN_FULL = LIGHTS.day.sun.intensity;

const WHITE = new Color('#ffffff');

let hour: Hour = 'day';
let own: SceneLight | null = null;
const told = new Set<() => void>();

/** The light that the scene is drawn in now. */
export const sceneLight = (): SceneLight => own ?? LIGHTS[hour];

/** Lets it become another hour; whoever keeps something of the light is told. */
export function setHour(next: Hour): void {
  if (next === hour) return;
  hour = next;
  for (const tell of told) tell();
}

/** Lets the scene be lit by a light of its own; null: by that of the hour. */
export function setOwnLight(light: Light | null): void {
  if (!light && !own) return;
  own = light && lit(light);
  for (const tell of told) tell();
}

/** What is drawn of a scene's own light. */
function lit({ sun, sky, surround, halo, haloReach, exposure, metered }: Light): SceneLight {
  const day = LIGHTS.day;
  const towards = sunWay(sun);
  const color = `#${new Color().fromArray(colorOfWarmth(sun.warmth)).getHexString()}`;
  const [overhead, horizon, ground] = [sky.overhead, sky.horizon, sky.ground].map((c) => new Color(c));
  const hex = (c: Color) => `#${c.getHexString()}`;
  const share = sunShare(towards[1]);
  return {
    sun: { color, intensity: day.sun.intensity * sun.strength * share, towards, wideDeg: sun.softDeg },
    sky: {
      // What comes from above, whole: a little more of it than of the rim.
      color: hex(overhead.clone().lerp(horizon, 0.4).lerp(WHITE, 0.35)),
      ground: sky.ground,
      intensity: day.sky.intensity * sky.brightness,
    },
    dome: {
      overhead: sky.overhead,
      halfway: hex(overhead.clone().lerp(horizon, 0.5)),
      horizon: sky.horizon,
      below: hex(horizon.clone().lerp(ground, 0.5)),
      glow: hex(new Color(color).multiplyScalar(Math.min(1, sun.strength) * share)),
    },
    surround,
    halo: { amount: halo, reach: haloReach },
    exposure,
    metered,
  };
}

/** Tells all who keep something of the light that it is another: what it is made of has come. */
export function retold(): void {
  // Whoever compares finds another one.
  if (own) own = { ...own };
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
