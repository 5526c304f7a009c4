import {
  Color,
  DirectionalLight,
  Vector3,
  type HemisphereLight,
  type LightProbe,
  type Scene,
  type WebGLRenderer,
} from 'three';
import { sceneLight } from '../light';
import type { LampLights } from '../lamps/LampLights';
import { fromAround } from '../surround/lighting';
import { inDisc, onDome } from './samples';

type Way = readonly [number, number, number];

export interface Lights {
  sun: DirectionalLight;
  sky: HemisphereLight;
  /** The light of a panorama, where that stands for the sky's. */
  around: LightProbe | null;
  /** All other lights. */
  lamps: LampLights | null;
}

/**
 * The light of a frame: the sun's from one place of its disc, and the sky's from one of its dome, each with its shadows;
 * or from two of each, of half the strength.
 */
export class FrameLight {
  private suns: DirectionalLight[] = [];
  private parts: DirectionalLight[] = [];
  /** What the sun of the view casts into meanwhile. */
  private shadow: DirectionalLight['shadow']['map'] = null;

  /** @param of so many places of the sun's disc, and of the dome: a power of two */
  constructor(
    private gl: WebGLRenderer,
    private of: number,
  ) {}

  /** Does something in the light of the k-th frame of so many pairs of places; after it all lights are as they were. */
  during(scene: Scene, lights: Lights, k: number, pairs: number, work: () => void): void {
    const { gl, of } = this;
    const { sun, sky, around, lamps } = lights;
    const was = {
      position: sun.position.clone(),
      intensity: sun.intensity,
      above: sky.color.clone(),
      around: around?.intensity ?? 0,
      shadow: sun.shadow.map,
    };
    // The view's own shadows stay as they are.
    sun.shadow.map = this.shadow;
    sun.intensity /= pairs;
    const away = sun.position.distanceTo(sun.target.position);
    const suns = [sun, ...like(sun, this.suns, pairs - 1)];
    const parts = like(sun, this.parts, pairs);
    for (let i = 0; i < pairs; i++) {
      const [ofSun, ofSky] = this.places(lights, k * pairs + i, pairs, suns[i], parts[i]);
      from(suns[i], ofSun, away);
      from(parts[i], ofSky, away);
    }
    if (around) around.intensity = 0;
    // After the suns: a metal tells them apart by that.
    const added = [...suns.slice(1), ...parts];
    scene.add(...added);
    gl.shadowMap.needsUpdate = false;
    if (lamps?.isAny) lamps.frame(k, of / pairs);
    work();
    lamps?.rest();
    scene.remove(...added);
    this.shadow = sun.shadow.map;
    sun.shadow.map = was.shadow;
    sun.intensity = was.intensity;
    sun.position.copy(was.position);
    sun.updateMatrixWorld();
    sun.shadow.updateMatrices(sun);
    sky.color.copy(was.above);
    if (around) around.intensity = was.around;
  }

  /** Gives the i-th light of the sun and the i-th of the sky what they shine with. @returns where each comes from */
  private places(
    { sun, sky }: Lights,
    i: number,
    pairs: number,
    one: DirectionalLight,
    part: DirectionalLight,
  ): [Way, Way] {
    const light = sceneLight();
    one.color.copy(sun.color);
    one.intensity = sun.intensity;
    const other = fromAround(i, this.of);
    if (other) {
      part.color.setRGB(...other.light);
      part.intensity = 1 / pairs;
    } else {
      // The mean of a cosine over the dome is half of what falls on level ground.
      part.color.set(new Color(light.sky.color));
      part.intensity = (2 * light.sky.intensity) / pairs;
      // What is left of the sky is what the ground throws back.
      sky.color.setScalar(0);
    }
    const ofSky = other?.way ?? onDome(i, this.of);
    // Light that comes in low grazes what it falls on: there a texel of shadow reaches further.
    part.shadow.normalBias = sun.shadow.normalBias * Math.min(4, 1 / Math.max(0.2, Math.abs(ofSky[1])));
    return [inDisc(i, [...light.sun.towards], (light.sun.wideDeg * Math.PI) / 180), ofSky];
  }

  dispose(): void {
    this.shadow?.dispose();
    for (const one of [...this.suns, ...this.parts]) one.dispose();
  }
}

/** So many lights that cast shadows as the sun does, out of those that there are, or made. */
function like(
  { target, shadow }: DirectionalLight,
  have: DirectionalLight[],
  count: number,
): DirectionalLight[] {
  while (have.length < count) have.push(new DirectionalLight());
  return have.slice(0, count).map((one) => {
    one.castShadow = true;
    one.target = target;
    one.shadow.mapSize.copy(shadow.mapSize);
    one.shadow.camera.copy(shadow.camera);
    one.shadow.normalBias = shadow.normalBias;
    return one;
  });
}

/** Lets a light come from there. */
function from(one: DirectionalLight, way: Way, away: number): void {
  one.position.copy(one.target.position).addScaledVector(new Vector3(...way), away);
  one.updateMatrixWorld();
  one.shadow.updateMatrices(one);
}
