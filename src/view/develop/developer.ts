import {
  AdditiveBlending,
  Color,
  FloatType,
  HalfFloatType,
  NearestFilter,
  ShaderMaterial,
  Vector2,
  Vector3,
  WebGLRenderTarget,
  type DirectionalLight,
  type HemisphereLight,
  type LightProbe,
  type Material,
  type Mesh,
  type OrthographicCamera,
  type PerspectiveCamera,
  type Scene,
  type WebGLProgram,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import { sceneLight } from '../light';
import { drawTile, Parts, tilesOf, type Region, type Tile } from '../tiles';
import type { LampLights } from '../lamps/LampLights';
import { fromAround } from '../surround/lighting';
import { SKY_UNIFORMS } from '../surround/sky';
import { Halo } from './halo';
import { throughLens, type Lens } from './lens';
import { inDisc, onDome, pixelShift } from './samples';

/**
 * A picture that is added up from frames. First the camera is moved by parts of a pixel, so that edges become smooth.
 * Then, frame by frame, the sun alone from a place of its disc, and the sky alone from a place of its dome, each with
 * its shadows and twice as bright, so that the mean of both is the light of the scene: shadows become soft, and what is
 * near to something dark. A dome of one brightness, without shadows, is just what a hemisphere light stands for, so
 * that nothing changes where nothing is in the way.
 */

/** Frames for the edges, and for the light: four times a power of two, of which every second one is the sky's. */
export interface Plan {
  edges: number;
  light: number;
}

export interface Lights {
  sun: DirectionalLight;
  sky: HemisphereLight;
  /** The light of a panorama, where that stands for the sky's. */
  around: LightProbe | null;
  /** All other lights. */
  lamps: LampLights | null;
}

/**
 * Brighter than so many times white no pixel of a frame is added: a speck that glares in one of them alone would stay to
 * be seen in the mean, and light without bounds would make it no number.
 */
const HELD = 64;

const ADD = `
  varying vec2 at; uniform sampler2D frame;
  void main() { gl_FragColor = min(texture2D(frame, at), vec4(${HELD.toFixed(1)})); }`;

/** Sums come with their alpha multiplied in: tones are for the colour itself. */
const SHOW = `
  varying vec2 at; uniform sampler2D edges; uniform sampler2D light; uniform float nEdges; uniform float nLight; uniform float share;
  void main() {
    vec4 sum = texture2D(edges, at) / nEdges;
    if (share > 0.0) sum = mix(sum, texture2D(light, at) / nLight, share);
    gl_FragColor = vec4(sum.rgb / max(sum.a, 1e-4), sum.a);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
    gl_FragColor.rgb *= gl_FragColor.a;
  }`;

/** Pixels of a part of a picture that is not shown. */
const UNSHOWN_PART = 400_000;

const VERTEX = `varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`;

export class Developer {
  private frame = target(HalfFloatType, true);
  private edges: WebGLRenderTarget;
  private light: WebGLRenderTarget;
  private add = new FullScreenQuad(
    new ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader: ADD,
      uniforms: { frame: { value: null } },
      blending: AdditiveBlending,
      premultipliedAlpha: true,
      depthTest: false,
      depthWrite: false,
      transparent: true,
      toneMapped: false,
    }),
  );
  private show = new FullScreenQuad(
    new ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader: SHOW,
      uniforms: {
        edges: { value: null },
        light: { value: null },
        nEdges: { value: 1 },
        nLight: { value: 1 },
        share: { value: 0 },
      },
      depthTest: false,
      depthWrite: false,
    }),
  );
  /** What is shown with a halo, before it. */
  private mean: WebGLRenderTarget | null = null;
  private halo: Halo | null = null;
  private done = 0;
  /** Of the frame that is being drawn: its parts, and how many of them are there. */
  private tiles: Tile[] = [];
  private tile = 0;
  /** How many parts frames are drawn in. */
  private parts = new Parts();
  private times: number[] = [];
  private shadow: DirectionalLight['shadow']['map'] = null;

  /** @param region of a picture that is not shown but read; null: the view's own is developed, and shown */
  constructor(
    private gl: WebGLRenderer,
    private plan: Plan,
    private region: Region | null = null,
    private lens: Lens | null = null,
  ) {
    // Without the blending of floats half of them has to do: 64 frames still add up to a thousandth.
    const type = gl.getContext().getExtension('EXT_float_blend') ? FloatType : HalfFloatType;
    this.edges = target(type, false);
    this.light = target(type, false);
    // Nobody waits for a picture that is not shown: its parts are as large as others can bear, since each of them goes
    // through all corners of the scene again.
    if (region)
      this.parts.count =
        2 ** Math.ceil(Math.log2(Math.max(1, (region.width * region.height) / UNSHOWN_PART)));
  }

  /** Begins anew at the next step. */
  restart(): void {
    this.done = 0;
    this.tile = 0;
    this.times = [];
  }

  /** Told how long the last step has taken, milliseconds: frames are drawn in parts as small as that asks for. */
  took(ms: number): void {
    // With its first part a frame casts its shadows, which cannot be parted.
    if (this.tile !== 1 || this.tiles.length === 1) this.times.push(ms);
    if (this.tile > 0) return;
    this.parts.took(this.times.reduce((sum, t) => sum + t, 0) / this.times.length);
    this.times = [];
  }

  /** Frames that have been added. */
  get added(): number {
    return this.done;
  }

  /** Whether nothing is left to be added. */
  get isDeveloped(): boolean {
    return this.done >= this.plan.edges + this.plan.light;
  }

  /**
   * Has the shaders made that its frames are drawn with, so that no frame waits for them: first those without, then those
   * with the lights of a frame. @param as does something while the scene is as its frames show it
   */
  async warm(
    scene: Scene,
    camera: PerspectiveCamera | OrthographicCamera,
    lights: Lights,
    as: (work: () => void) => void,
  ): Promise<void> {
    const { gl } = this;
    for (const isLit of [false, true]) {
      let made: Promise<unknown> | undefined;
      const before = gl.getRenderTarget();
      gl.setRenderTarget(this.frame);
      const make = () => void (made = gl.compileAsync(scene, camera));
      as(() => (isLit ? this.lit(lights, 0, make) : make()));
      gl.setRenderTarget(before);
      await made;
      await this.met(scene);
    }
  }

  /** Asks each shader for its inputs while nothing else is to be drawn: the first frame would wait for each answer. */
  private async met(scene: Scene): Promise<void> {
    const materials = new Set<Material>();
    scene.traverse((o) => {
      const own = (o as Mesh).material as Material | Material[] | undefined;
      for (const material of own ? [own].flat() : []) materials.add(material);
    });
    for (const material of materials) {
      const { currentProgram } = this.gl.properties.get(material) as { currentProgram?: WebGLProgram };
      currentProgram?.getUniforms();
      await new Promise((done) => setTimeout(done));
    }
  }

  /** Draws one part of a frame; the last one adds it, and shows what there is. Camera and lights are then as they were. */
  step(scene: Scene, camera: PerspectiveCamera | OrthographicCamera, lights: Lights): void {
    const { gl, plan, done } = this;
    const before = gl.getRenderTarget();
    if (done === 0 && this.tile === 0) this.open();
    const { width, height } = this.frame;
    gl.setRenderTarget(this.frame);
    if (this.tile === 0) {
      this.tiles = tilesOf(width, height, this.parts.count);
      gl.clear();
    }
    const draw = () =>
      throughLens(this.lens, camera, this.region?.of.height ?? height, done, ([x, y]) => {
        const [dx, dy] = pixelShift(done);
        drawTile(gl, scene, camera, { width, height }, this.tiles[this.tile], [dx + x, dy + y], this.region);
      });
    const n = done - plan.edges;
    if (n < 0) draw();
    else this.lit(lights, n, draw);
    if (++this.tile === this.tiles.length) {
      this.tile = 0;
      this.addTo(n < 0 ? this.edges : this.light);
      this.done++;
    }
    gl.setRenderTarget(before);
    if (this.tile === 0 && !this.region) this.present();
  }

  /** Makes room for the size of the view, empty. */
  private open(): void {
    const { gl } = this;
    const { width, height } = this.region ?? gl.getDrawingBufferSize(new Vector2());
    for (const t of [this.frame, this.edges, this.light]) t.setSize(width, height);
    for (const t of [this.edges, this.light]) {
      gl.setRenderTarget(t);
      gl.clear();
    }
  }

  private addTo(sum: WebGLRenderTarget): void {
    const { gl } = this;
    gl.setRenderTarget(sum);
    const { autoClear } = gl;
    gl.autoClear = false;
    (this.add.material as ShaderMaterial).uniforms.frame.value = this.frame.texture;
    this.add.render(gl);
    gl.autoClear = autoClear;
  }

  /** Does something in the light of the n-th frame: from the sun alone, or from the sky alone. */
  private lit({ sun, sky, around, lamps }: Lights, n: number, work: () => void): void {
    const { gl } = this;
    const light = sceneLight();
    const was = {
      position: sun.position.clone(),
      color: sun.color.clone(),
      intensity: sun.intensity,
      above: sky.color.clone(),
      sky: sky.intensity,
      around: around?.intensity ?? 0,
      shadow: sun.shadow.map,
      bias: sun.shadow.normalBias,
    };
    const k = n >> 1;
    const away = sun.position.distanceTo(sun.target.position);
    const fromSun = n % 2 === 0;
    const other = fromSun ? null : fromAround(k, this.plan.light / 2);
    const way = fromSun
      ? inDisc(k, [...light.sun.towards], (light.sun.wideDeg * Math.PI) / 180)
      : (other?.way ?? onDome(k, this.plan.light / 2));
    sun.position.copy(sun.target.position).addScaledVector(new Vector3(...way), away);
    sun.updateMatrixWorld();
    if (around) around.intensity = 0;
    SKY_UNIFORMS.sunGlints.value = fromSun ? 1 : 0;
    if (fromSun) {
      sun.intensity = 2 * light.sun.intensity;
      sky.intensity = 0;
    } else if (other) {
      sun.color.setRGB(...other.light);
      sun.intensity = 2;
      sky.intensity = 0;
    } else {
      // The mean of a cosine over the dome is half of what falls on level ground.
      sun.color.set(new Color(light.sky.color));
      sun.intensity = 4 * light.sky.intensity;
      sky.intensity = 2 * light.sky.intensity;
      sky.color.setScalar(0);
    }
    // Light that comes in low grazes what it falls on: there a texel of shadow reaches further.
    if (!fromSun) sun.shadow.normalBias = was.bias * Math.min(4, 1 / Math.max(0.2, Math.abs(way[1])));
    // The view's own shadows stay as they are.
    sun.shadow.map = this.shadow;
    // Cast once for all parts of a frame.
    gl.shadowMap.needsUpdate = this.tile === 0;
    sun.shadow.updateMatrices(sun);
    if (lamps?.isAny) lamps.frame(n, this.plan.light);
    work();
    lamps?.rest();
    this.shadow = sun.shadow.map;
    sun.shadow.map = was.shadow;
    sun.shadow.normalBias = was.bias;
    sun.position.copy(was.position);
    sun.updateMatrixWorld();
    sun.color.copy(was.color);
    sun.intensity = was.intensity;
    sky.color.copy(was.above);
    sky.intensity = was.sky;
    if (around) around.intensity = was.around;
    SKY_UNIFORMS.sunGlints.value = 1;
    sun.shadow.updateMatrices(sun);
  }

  private present(): void {
    const { plan, done } = this;
    const { uniforms } = this.show.material as ShaderMaterial;
    const light = Math.max(0, done - plan.edges);
    // Pairs of sun and sky belong together.
    const pairs = light - (light % 2);
    if (light !== pairs) return;
    uniforms.edges.value = this.edges.texture;
    uniforms.light.value = this.light.texture;
    uniforms.nEdges.value = Math.min(done, plan.edges);
    uniforms.nLight.value = Math.max(1, light);
    // A few directions alone would be seen as such: they come in as they become many.
    uniforms.share.value = Math.min(1, light / (plan.light / 2));
    const { halo } = sceneLight();
    // A region knows nothing of what shines beside it: its picture has its halo as a whole.
    if (this.region || halo.amount === 0) return this.show.render(this.gl);
    const { gl } = this;
    const before = gl.getRenderTarget();
    this.mean ??= target(HalfFloatType, false);
    this.mean.setSize(this.frame.width, this.frame.height);
    gl.setRenderTarget(this.mean);
    this.show.render(gl);
    gl.setRenderTarget(before);
    this.halo ??= new Halo(gl);
    this.halo.show(this.mean, halo.amount, halo.reach);
  }

  /** The picture: linear red, green and blue with their alpha multiplied in, and alpha; the bottom row first. */
  async read(): Promise<Float32Array> {
    const { gl } = this;
    const { width, height } = this.frame;
    const out = target(FloatType, false);
    out.setSize(width, height);
    const before = gl.getRenderTarget();
    gl.setRenderTarget(out);
    this.present();
    gl.setRenderTarget(before);
    const pixels = new Float32Array(width * height * 4);
    await gl.readRenderTargetPixelsAsync(out, 0, 0, width, height, pixels);
    out.dispose();
    return pixels;
  }

  dispose(): void {
    for (const t of [this.frame, this.edges, this.light, this.mean]) t?.dispose();
    this.halo?.dispose();
    for (const quad of [this.add, this.show]) {
      quad.material.dispose();
      quad.dispose();
    }
    this.shadow?.dispose();
  }
}

const target = (type: typeof FloatType | typeof HalfFloatType, depthBuffer: boolean) =>
  new WebGLRenderTarget(1, 1, {
    type,
    depthBuffer,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  });
