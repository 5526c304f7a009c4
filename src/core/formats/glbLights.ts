import type { Node } from '@gltf-transform/core';
import { KHRLightsPunctual } from '@gltf-transform/extensions';
import { STATE } from '../arrange/result';
import type { SceneResult } from '../evaluate/scene';
import { lightAt } from '../evaluate/timed/lightAt';
import type { Lamp } from '../light/lampSchema';
import { colorOfWarmth } from '../light/warmth';
import { atan2 } from '../math/portable';
import { quatFromUpFront, type Quat } from '../math/quat';
import { normalize, sub, type Vec3 } from '../math/vec3';
import { through } from '../mesh/surface';
import type { Scene } from '../scene/schema';
import type { GlbParts } from './glbParts';

/** Lights that were put in by hand, and viewpoints, as the lights (KHR_lights_punctual) and cameras of a file. */

/** A clear day's sun, lux: what a strength of 1 is a metre off, and so the candela of a light. */
const SUN_LUX = 100_000;
/** A flat light is a cone as wide as a file can hold. */
const WIDEST = Math.PI / 2;
/** Millimetres of half the frame that focal lengths are told for. */
const HALF_FRAME = 12;
const NEAR = 0.1;
const FAR = 1200;

/** Lights and cameras look along their own −Z. */
const lookingFrom = (at: Vec3, to: Vec3): Quat => {
  const back = normalize(sub(at, to), [0, 1, 0]);
  // A front and an up that are one direction make no frame.
  const up: Vec3 = Math.abs(back[1]) > 0.999 ? [0, 0, -1] : [0, 1, 0];
  const side = back.map((b) => b * (up[0] * back[0] + up[1] * back[1] + up[2] * back[2])) as Vec3;
  return quatFromUpFront(normalize(sub(up, side)), back);
};

/** The middle of the box around what a light is aimed at; null where that is nowhere. */
function middleOf(scene: Scene, { arrangements, surfaces }: SceneResult, id: string): Vec3 | null {
  const low: Vec3 = [Infinity, Infinity, Infinity];
  const high: Vec3 = [-Infinity, -Infinity, -Infinity];
  const take = (at: Vec3) => {
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k], at[k]);
      high[k] = Math.max(high[k], at[k]);
    }
  };
  const p = arrangements[scene.arrangements.findIndex((a) => a.id === id)]?.placements;
  for (let i = 0; p && i < p.count; i++)
    if (p.state[i] === STATE.placed) take([p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
  const surface = surfaces[scene.surfaces.findIndex((s) => s.id === id)];
  const places = surface?.mesh?.positions ?? [];
  for (let i = 0; i < places.length; i += 3)
    take(through(surface.matrix, [places[i], places[i + 1], places[i + 2]]));
  return low[0] <= high[0] ? (low.map((l, k) => (l + high[k]) / 2) as Vec3) : null;
}

/** Puts the lights that are on, and every viewpoint, into a file. */
export function addLights(w: GlbParts, scene: Scene, result: SceneResult): void {
  const { lamps } = lightAt(scene, 0, result.links);
  for (const lamp of lamps) if (lamp.on) w.scene.addChild(lightNode(w, lamp, aimOf(lamp)));
  for (const { name, eye, aim, focal, aspect, id } of scene.viewpoints) {
    const camera = w.document
      .createCamera(name)
      .setType('perspective')
      .setYFov(2 * atan2(HALF_FRAME, focal))
      .setAspectRatio(aspect)
      .setZNear(NEAR)
      .setZFar(FAR);
    const node = w.document.createNode(name).setCamera(camera).setExtras({ id });
    w.scene.addChild(node.setTranslation(eye).setRotation(lookingFrom(eye, aim)));
  }

  function aimOf({ aimedAt, aim }: Lamp): Vec3 {
    return (aimedAt !== null && middleOf(scene, result, aimedAt)) || aim;
  }
}

function lightNode(w: GlbParts, lamp: Lamp, aim: Vec3): Node {
  const { name, kind, at, strength, warmth, size, spreadDeg, id } = lamp;
  const light = w.document
    .createExtension(KHRLightsPunctual)
    .createLight(name)
    .setType(kind === 'point' ? 'point' : 'spot')
    .setColor(colorOfWarmth(warmth))
    .setIntensity(strength * SUN_LUX);
  if (kind !== 'point') {
    const half = kind === 'area' ? WIDEST : (spreadDeg * Math.PI) / 360;
    light.setOuterConeAngle(half).setInnerConeAngle(kind === 'area' ? 0 : half * 0.8);
  }
  return w.document
    .createNode(name)
    .setExtension('KHR_lights_punctual', light)
    .setTranslation(at)
    .setRotation(kind === 'point' ? [0, 0, 0, 1] : lookingFrom(at, aim))
    .setExtras({ id, kind, size });
}
