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

export interface Lights {
  sun: DirectionalLight;
  sky: HemisphereLight;
  /** The light of a panorama, where that stands for the sky's. */
  around: LightProbe | null;
  /** All other lights. */
  lamps: LampLights | null;
}

/** The light of a frame: the sun's from one place of its disc, and the sky's from one of its dome, each with its shadows. */
export class FrameLight {
  private above = new DirectionalLight();
  private shadow: DirectionalLight['shadow']['map'] = null;

  /** @param of so many frames: twice a power of two */
  constructor(
    private gl: WebGLRenderer,
    private of: number,
  ) {
    this.above.castShadow = true;
  }

  /** Does something in the light of the k-th frame; after it all lights are as they were. */
  during(scene: Scene, { sun, sky, around, lamps }: Lights, k: number, work: () => void): void {
    const { gl, of, above } = this;
    const light = sceneLight();
    const was = {
      position: sun.position.clone(),
      above: sky.color.clone(),
      around: around?.intensity ?? 0,
      shadow: sun.shadow.map,
    };
    const away = sun.position.distanceTo(sun.target.position);
    const from = (one: DirectionalLight, way: readonly number[]) => {
      one.position.copy(sun.target.position).addScaledVector(new Vector3(...way), away);
      one.updateMatrixWorld();
      one.shadow.updateMatrices(one);
    };
    // The view's own shadows stay as they are.
    sun.shadow.map = this.shadow;
    from(sun, inDisc(k, [...light.sun.towards], (light.sun.wideDeg * Math.PI) / 180));
    const other = fromAround(k, of);
    const way = other?.way ?? onDome(k, of);
    above.target = sun.target;
    above.shadow.mapSize.copy(sun.shadow.mapSize);
    above.shadow.camera.copy(sun.shadow.camera);
    // Light that comes in low grazes what it falls on: there a texel of shadow reaches further.
    above.shadow.normalBias = sun.shadow.normalBias * Math.min(4, 1 / Math.max(0.2, Math.abs(way[1])));
    from(above, way);
    if (around) around.intensity = 0;
    if (other) {
      above.color.setRGB(...other.light);
      above.intensity = 1;
    } else {
      // The mean of a cosine over the dome is half of what falls on level ground.
      above.color.set(new Color(light.sky.color));
      above.intensity = 2 * light.sky.intensity;
      // What the ground throws back.
      sky.color.setScalar(0);
    }
    // After the sun: a metal tells them apart by that.
    scene.add(above);
    gl.shadowMap.needsUpdate = false;
    if (lamps?.isAny) lamps.frame(k, of);
    work();
    lamps?.rest();
    scene.remove(above);
    this.shadow = sun.shadow.map;
    sun.shadow.map = was.shadow;
    sun.position.copy(was.position);
    sun.updateMatrixWorld();
    sun.shadow.updateMatrices(sun);
    sky.color.copy(was.above);
    if (around) around.intensity = was.around;
  }

  dispose(): void {
    this.shadow?.dispose();
    this.above.dispose();
  }
}
