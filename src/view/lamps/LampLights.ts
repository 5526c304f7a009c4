import { Color, Group, PointLight, SpotLight, Vector3, type Light as ThreeLight } from 'three';
import { gathered, lampsInFrame, mostInFrame, type Lamps } from '@/core/light/glowing';
import type { Lamp } from '@/core/light/lampSchema';
import type { Vec3 } from '@/core/math/vec3';
import { colorOfWarmth } from '@/core/light/warmth';
import { AREA_ANGLE } from './areaLight';
import { SUN_FULL } from '../light';
import { SOFTWARE } from '../software';
import { inBall, onDisc } from '../develop/samples';

/**
 * The lights of a scene beside its sun and sky: those put in by hand, and the props that glow. While one works, the former
 * are all there, and the latter as a few that stand for all. While the picture develops each frame has one of the former,
 * from a place of its size, with shadows; and a few of the latter; so that the mean of all frames is the light of all.
 */

/** Glowing props of a frame: of one that is shown at once, and of one of those that are added up. */
const AT_ONCE = 4;
const A_FRAME = 4;
/** More lamps than frames times this are gathered. */
const MOST_A_FRAME = 8;
const SHADOW = SOFTWARE ? 512 : 1024;

/** A light put in by hand, at one moment: where it looks to is known by now. */
export interface PlacedLamp extends Omit<Lamp, 'aim' | 'aimedAt'> {
  aim: Vec3;
}

const NONE: Lamps = { count: 0, at: new Float64Array(), light: new Float64Array() };

export class LampLights extends Group {
  private own: PlacedLamp[] = [];
  private glowing = NONE;
  /** What is lit while one works. */
  private live = new Group();
  /** What is lit in a frame that is added up. */
  private points: PointLight[] = [];
  private cone = shadowed(new SpotLight());
  private ball = shadowed(new PointLight());
  private gatheredFor: { frames: number; lamps: Lamps } | null = null;

  constructor() {
    super();
    this.add(this.live, this.cone, this.cone.target, this.ball);
    this.cone.visible = this.ball.visible = false;
  }

  /** Whether anything but sun and sky gives light. */
  get isAny(): boolean {
    return this.own.length > 0 || this.glowing.count > 0;
  }

  /** Lets these be the lights put in by hand that are on. */
  setOwn(own: PlacedLamp[]): void {
    this.own = own;
    this.light();
  }

  setGlowing(lamps: Lamps): void {
    this.glowing = lamps;
    this.gatheredFor = null;
    this.light();
  }

  /** The lights while one works. */
  private light(): void {
    const { own, glowing, live } = this;
    const few = gathered(glowing, AT_ONCE);
    const spots = own.filter((l) => l.kind !== 'point');
    const balls = own.filter((l) => l.kind === 'point');
    const want = { spots: spots.length, points: balls.length + few.count };
    const have = live.children.filter((o) => o.type !== 'Object3D') as ThreeLight[];
    const isCount = (type: string, n: number) => have.filter((o) => o.type === type).length === n;
    if (!isCount('SpotLight', want.spots) || !isCount('PointLight', want.points)) {
      for (const o of have) o.dispose();
      live.clear();
      for (let i = 0; i < want.spots; i++) {
        const spot = new SpotLight();
        live.add(spot, spot.target);
      }
      for (let i = 0; i < want.points; i++) live.add(new PointLight());
    }
    const children = live.children as (ThreeLight | SpotLight | PointLight)[];
    const spotLights = children.filter((o): o is SpotLight => o.type === 'SpotLight');
    const pointLights = children.filter((o): o is PointLight => o.type === 'PointLight');
    spots.forEach((lamp, i) => aimed(spotLights[i], lamp, lamp.at, 1));
    balls.forEach((lamp, i) => ball(pointLights[i], lamp, lamp.at, 1));
    for (let i = 0; i < few.count; i++) glow(pointLights[balls.length + i], few, i, 1);
  }

  /** Lights the n-th of so many frames of a picture, until `rest` is called. */
  frame(n: number, frames: number): void {
    const { own, live, points, cone } = this;
    live.visible = false;
    if (this.gatheredFor?.frames !== frames)
      this.gatheredFor = { frames, lamps: gathered(this.glowing, frames * MOST_A_FRAME) };
    const { lamps } = this.gatheredFor;
    const most = mostInFrame(lamps.count, frames, A_FRAME);
    while (points.length < most) {
      const made = new PointLight();
      points.push(made);
      this.add(made);
    }
    const now = lampsInFrame(lamps.count, frames, A_FRAME, n);
    points.forEach((light, k) => {
      light.visible = k < most;
      if (k < now.lamps.length) glow(light, lamps, now.lamps[k], now.times);
      else light.intensity = 0;
    });
    cone.visible = own.some((l) => l.kind !== 'point');
    this.ball.visible = own.some((l) => l.kind === 'point');
    cone.intensity = this.ball.intensity = 0;
    const [i] = lampsInFrame(own.length, frames, 1, n).lamps;
    if (i === undefined) return;
    const { times } = lampsInFrame(own.length, frames, 1, n);
    const lamp = own[i];
    // Each of its places in turn, by how often it has been lit.
    const k = Math.floor(n / own.length);
    if (lamp.kind === 'point') ball(this.ball, lamp, inBall(k, lamp.at, lamp.size / 2), times);
    else aimed(cone, lamp, onDisc(k, lamp.at, wayOf(lamp), lamp.size / 2), times);
    this.updateMatrixWorld(true);
  }

  /** The lights are as they were before. */
  rest(): void {
    this.live.visible = true;
    for (const light of [...this.points, this.cone, this.ball]) light.visible = false;
  }

  override dispose(): void {
    for (const o of [...this.live.children, ...this.points, this.cone, this.ball])
      if ('dispose' in o) (o as ThreeLight).dispose();
  }
}

const wayOf = ({ at, aim }: PlacedLamp): Vec3 => {
  const way: Vec3 = [aim[0] - at[0], aim[1] - at[1], aim[2] - at[2]];
  return Math.hypot(...way) > 1e-9 ? way : [0, -1, 0];
};

const warm = (light: ThreeLight, lamp: PlacedLamp, times: number) => {
  light.color.fromArray(colorOfWarmth(lamp.warmth));
  light.intensity = lamp.strength * SUN_FULL * times;
};

function ball(light: PointLight, lamp: PlacedLamp, at: Vec3, times: number): void {
  light.position.set(...at);
  warm(light, lamp, times);
}

function aimed(light: SpotLight, lamp: PlacedLamp, at: Vec3, times: number): void {
  light.position.set(...at);
  light.target.position.set(...at).add(new Vector3(...wayOf(lamp)));
  light.target.updateMatrixWorld();
  const isArea = lamp.kind === 'area';
  light.angle = isArea ? AREA_ANGLE : (lamp.spreadDeg * Math.PI) / 360;
  light.penumbra = 0.2;
  // What lies beside a flat light gets so little of it that its shadow is not missed.
  light.shadow.focus = isArea ? 0.83 : 1;
  warm(light, lamp, times);
}

const color = new Color();

function glow(light: PointLight, lamps: Lamps, i: number, times: number): void {
  light.position.fromArray(lamps.at, i * 3);
  color.setRGB(lamps.light[i * 3], lamps.light[i * 3 + 1], lamps.light[i * 3 + 2]);
  light.color.copy(color);
  light.intensity = SUN_FULL * times;
}

function shadowed<L extends SpotLight | PointLight>(light: L): L {
  light.castShadow = true;
  light.shadow.mapSize.set(SHADOW, SHADOW);
  light.shadow.camera.near = 0.05;
  light.shadow.camera.far = 60;
  light.shadow.normalBias = 0.02;
  return light;
}
