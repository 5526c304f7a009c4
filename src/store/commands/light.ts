import { LIGHTS, type LightName } from '@/core/light/presets';
import { LIGHT_NODE, type Light } from '@/core/light/schema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { describeChange } from './naming';

/** Commands of the light of a scene. */

const own = (scene: Scene): Light => scene.light ?? structuredClone(LIGHTS.day);

/**
 * Lights the scene as a day, an evening, an overcast day or a night; null: as the interface is lit. What is around it, and
 * how its picture is finished, stays.
 */
export const startLight = command<{ name: LightName | null }>({
  apply(scene, { name }) {
    const { sun, sky, exposure } = LIGHTS[name ?? 'day'];
    scene.light = name && { ...own(scene), ...structuredClone({ sun, sky, exposure }) };
    // Its numbers are those of this light now, at every moment.
    scene.timed = scene.timed.filter((t) => t.node !== LIGHT_NODE);
    scene.links = scene.links.filter((l) => l.node !== LIGHT_NODE);
  },
  name: (_, __, { name }) => (name ? `light: ${name}` : 'light as the interface'),
});

export const setSun = command<Partial<Light['sun']>>({
  apply(scene, values) {
    const light = own(scene);
    scene.light = { ...light, sun: { ...light.sun, ...values } };
  },
  name: (before, _, values) => `sun: ${describeChange(own(before).sun, values, before.units, SUN)}`,
});

export const setSky = command<Partial<Light['sky']>>({
  apply(scene, values) {
    const light = own(scene);
    scene.light = { ...light, sky: { ...light.sky, ...values } };
  },
  name: (before, _, values) => `sky: ${describeChange(own(before).sky, values, before.units)}`,
});

export const setSurround = command<Partial<Light['surround']>>({
  apply(scene, values) {
    const light = own(scene);
    scene.light = { ...light, surround: { ...light.surround, ...values } };
  },
  name: (before, _, values) =>
    `around: ${describeChange(own(before).surround, values, before.units, SURROUND)}`,
});

/** How the picture of the scene is finished: its halo, and whether its exposure is measured. */
export const setFinish = command<Partial<Pick<Light, 'halo' | 'haloReach' | 'metered'>>>({
  apply: (scene, values) => void (scene.light = { ...own(scene), ...values }),
  name: (before, _, values) => describeChange(own(before), values, before.units, FINISH),
});

export const setExposure = command<{ exposure: number }>({
  apply: (scene, { exposure }) => void (scene.light = { ...own(scene), exposure }),
  name: (before, _, values) => describeChange(own(before), values, before.units),
});

const SURROUND = {
  by: 'reflects',
  panorama: 'panorama',
  turnDeg: 'turn',
  brightness: 'brightness',
  lights: 'gives light',
  seen: 'seen',
};
const FINISH = { halo: 'halo', haloReach: 'reach of the halo', metered: 'measured exposure' };
const SUN = {
  by: 'placed',
  compassDeg: 'compass',
  heightDeg: 'height',
  latitudeDeg: 'latitude',
  softDeg: 'softness',
  strength: 'strength',
};
