import {
  AdditiveBlending,
  DepthTexture,
  FloatType,
  HalfFloatType,
  NearestFilter,
  Scene,
  ShaderMaterial,
  Vector2,
  WebGLRenderTarget,
  type DirectionalLight,
  type Material,
  type Mesh,
  type Object3D,
  type OrthographicCamera,
  type PerspectiveCamera,
  type WebGLProgram,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import { sceneLight } from '../light';
import { SOFTWARE } from '../software';
import { drawTile, tilesOf, type Region } from '../tiles';
import { NOWHERE, Shadows } from './casting';
import { drawablesOf, only } from './drawables';
import { FrameLight, type Lights } from './frameLight';
import { Halo } from './halo';
import { throughLens, type Lens } from './lens';
import { inTiles, Portions, type Portion, type Timed } from './portions';
import { pixelShift } from './samples';
import { canBeSought, MOST_SEEN, Seen } from './seen';

/**
 * A picture that is added up from frames. First the camera is moved by parts of a pixel, so that edges become smooth.
 * Then, frame by frame, there are two lights, or four: the sun from a place of its disc, and one of the sky from a place
 * of its dome, each with its shadows: shadows become soft, and what is near to something dark. A dome of one brightness,
 * without shadows, is just what a hemisphere light stands for, so that nothing changes where nothing is in the way.
 */

export interface Plan {
  /** Frames for the edges. */
  edges: number;
  /** Places that light comes from: four times a power of two, of which every second one is the sky's. */
  light: number;
  /** Places of a pixel that a frame of the edges looks at by itself. */
  samples?: number;
  /**
   * Places of the sun, and as many of the sky, that a frame has: 1, or 2 where that takes less than two frames. Where
   * there are lights of the scene's own, which a frame has one of, it is 1.
   */
  pairs?: 1 | 2;
  /** Whether shadows are cast by fewer triangles, where their texels are so coarse that it does not show. */
  coarse?: boolean;
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

/** Half of the precision would do, but without a graphics card it takes longer to write than all that is drawn with it. */
const FRAME = SOFTWARE ? FloatType : HalfFloatType;

const VERTEX = `varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`;

/** A thing that takes longer, milliseconds, is only drawn where it is seen. */
const SOUGHT_MS = 20;

/** What takes no time that would be worth knowing. */
const SHORT: Timed = { expected: 0, took: () => {} };

export class Developer {
  /** What shadows a frame of the edges has: those of the view, or its own, cast anew or again as they were. */
  shadows: 'view' | 'anew' | 'again' = 'view';
  /** What frames are drawn into: those of the edges, and those of the light. */
  private sharp: WebGLRenderTarget;
  private lit: WebGLRenderTarget;
  /** What is drawn into where only shadows are cast. */
  private nothing = target(HalfFloatType, true);
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
  /** How many edges and lights were added, and in how many frames. */
  private done = 0;
  private frames = 0;
  /** Places of the sun that a frame of the light has. */
  private pairs = 1;
  /** Whether there is room for the size of the view, empty when it began. */
  private isOpen = false;
  /** Of the frame that is being drawn: its shadows, its portions, and how many of them are there. */
  private cast: Shadows;
  private ownShadow: DirectionalLight['shadow']['map'] = null;
  private things: Object3D[] = [];
  private portions: readonly Portion[] = [];
  private portion = 0;
  private division = new Portions();
  /** Where what takes long is seen; whether it has been looked for since it began; and how long that took the last time. */
  private seen: Seen;
  private isSought = false;
  private seekingMs = Infinity;
  /** Whether it is added to those before it, and not yet shown. */
  private isAdded = false;
  private frameLight: FrameLight;

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
    this.sharp = target(FRAME, true, plan.samples);
    this.lit = target(FRAME, true);
    this.lit.depthTexture = new DepthTexture(1, 1);
    this.seen = new Seen(gl);
    this.frameLight = new FrameLight(gl, plan.light / 2);
    this.cast = new Shadows(gl, plan.coarse ?? false);
  }

  /** Begins anew at the next step. */
  restart(): void {
    this.done = this.frames = this.portion = 0;
    this.isOpen = this.isAdded = this.isSought = false;
    this.seen.forget();
    this.cast.restart();
  }

  /** Whether the next step shows what has been added: the page waits for it, with all that the card has to do before. */
  get isToShow(): boolean {
    return this.isAdded;
  }

  /** How many frames of edges, and how many lights, have been added. */
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
      gl.setRenderTarget(isLit ? this.lit : this.sharp);
      const make = () => void (made = gl.compileAsync(scene, camera));
      as(() => (isLit ? this.frameLight.during(scene, lights, 0, this.pairsIn(lights), make) : make()));
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

  /**
   * Casts one of a frame's shadows, draws one of its portions, adds it to those before it, or shows them all. Camera and
   * lights are then as they were.
   * @returns what is to be told how long it took: frames are divided as that asks for
   */
  step(scene: Scene, camera: PerspectiveCamera | OrthographicCamera, lights: Lights): Timed {
    const { gl, plan, done, shadows } = this;
    const before = gl.getRenderTarget();
    if (!this.isOpen) this.open(lights);
    const k = (done - plan.edges) / (2 * this.pairs);
    let timed = SHORT;
    const draw = () => (timed = this.draw(scene, camera));
    const castOrDraw = () => (timed = this.castOrDraw(scene, camera));
    const isShown = this.isAdded;
    const isDrawn = this.portion > 0 && this.portion >= this.portions.length;
    if (isShown) this.next();
    else if (isDrawn && k >= 0 && !this.isSought) timed = this.seek(scene, camera);
    else if (isDrawn) this.addUp();
    else if (k < 0 && shadows === 'view') draw();
    else if (k < 0) this.inOwnShadow(lights.sun, shadows === 'anew' ? castOrDraw : draw);
    else this.frameLight.during(scene, lights, k, this.pairs, castOrDraw);
    gl.setRenderTarget(before);
    if (isShown) this.present();
    return timed;
  }

  /** Adds the frame that is drawn; one that is not shown is done with. */
  private addUp(): void {
    const isLit = this.done >= this.plan.edges;
    this.addTo(isLit ? this.light : this.edges, isLit ? this.lit : this.sharp);
    this.isAdded = true;
    if (this.region) this.next();
  }

  /** Goes on to the next frame. */
  private next(): void {
    this.done += this.done < this.plan.edges ? 1 : 2 * this.pairs;
    this.frames++;
    this.portion = 0;
    this.isAdded = false;
    this.cast.restart();
  }

  /** Makes room for the size of the view, empty. */
  private open(lights: Lights): void {
    const { gl } = this;
    this.isOpen = true;
    this.pairs = this.pairsIn(lights);
    const { width, height } = this.size();
    for (const t of [this.sharp, this.edges]) t.setSize(width, height);
    if (this.plan.light > 0) for (const t of [this.lit, this.light]) t.setSize(width, height);
    for (const t of [this.edges, this.light]) {
      gl.setRenderTarget(t);
      gl.clear();
    }
  }

  private pairsIn = ({ lamps }: Lights): number => (lamps?.isAny ? 1 : (this.plan.pairs ?? 1));

  private size(): { width: number; height: number } {
    return this.region ?? this.gl.getDrawingBufferSize(new Vector2());
  }

  /** First come a frame's shadows, a portion a step, then its own portions. */
  private castOrDraw(scene: Scene, camera: PerspectiveCamera | OrthographicCamera): Timed {
    this.gl.setRenderTarget(this.nothing);
    return this.cast.step(scene, camera) ?? this.draw(scene, camera);
  }

  /** Does something in shadows that no frame of the view has. */
  private inOwnShadow({ shadow }: DirectionalLight, work: () => void): void {
    const { map } = shadow;
    shadow.map = this.ownShadow;
    work();
    this.ownShadow = shadow.map;
    shadow.map = map;
  }

  /** Draws a portion of a frame. */
  private draw(scene: Scene, camera: PerspectiveCamera | OrthographicCamera): Timed {
    const { gl, plan, done, region } = this;
    const { width, height } = this.edges;
    const isLit = done >= plan.edges;
    gl.setRenderTarget(isLit ? this.lit : this.sharp);
    if (this.portion === 0) {
      this.things = drawablesOf(scene, camera);
      const { length } = this.things;
      this.portions = region
        ? inTiles(this.things, 0, length, partsOf(region))
        : this.division.of(this.things, width, height, this.seen.of);
      gl.clear();
    }
    const portion = this.portions[this.portion++];
    this.drawSome(scene, camera, portion);
    return this.division.timed(portion);
  }

  /** Draws some of the things of a frame, where the camera is for it. */
  private drawSome(
    scene: Scene,
    camera: PerspectiveCamera | OrthographicCamera,
    { from, to, tile }: Pick<Portion, 'from' | 'to' | 'tile'>,
  ): void {
    const { gl, plan, frames, region, lens } = this;
    const { width, height } = this.edges;
    const { autoClear } = gl;
    gl.autoClear = false;
    throughLens(lens, camera, region?.of.height ?? height, frames, ([x, y]) => {
      // A picture of one frame is just where a frame of the view is.
      const [dx, dy] = plan.edges + plan.light > 1 ? pixelShift(frames) : [0, 0];
      only(this.things, from, to, () =>
        drawTile(gl, scene, camera, { width, height }, tile, [dx + x, dy + y], region),
      );
    });
    gl.autoClear = autoClear;
  }

  /** Looks where in the frame that is drawn those are seen that take long, for those that follow. */
  private seek(scene: Scene, camera: PerspectiveCamera | OrthographicCamera): Timed {
    const { region, lens, division, things, seen } = this;
    this.isSought = true;
    const sought = division.longest(things.filter(canBeSought), MOST_SEEN, SOUGHT_MS);
    // Of a region nobody knows what takes long; through a lens each frame sees another place.
    if (region || lens || sought.length === 0) return SHORT;
    const { width, height } = this.edges;
    const tile = { x: 0, y: 0, width, height };
    seen.at(sought, this.lit.depthTexture!, (thing) => {
      const from = things.indexOf(thing);
      this.drawSome(scene, camera, { from, to: from + 1, tile });
    });
    return { expected: this.seekingMs, took: (ms) => void (this.seekingMs = ms) };
  }

  private addTo(sum: WebGLRenderTarget, frame: WebGLRenderTarget): void {
    const { gl } = this;
    const { autoClear } = gl;
    gl.autoClear = false;
    if (frame.samples > 0) {
      // Brings its places of a pixel together.
      gl.setRenderTarget(frame);
      gl.render(EMPTY, NOWHERE);
    }
    gl.setRenderTarget(sum);
    (this.add.material as ShaderMaterial).uniforms.frame.value = frame.texture;
    this.add.render(gl);
    gl.autoClear = autoClear;
  }

  private present(): void {
    const { plan, done } = this;
    const { uniforms } = this.show.material as ShaderMaterial;
    const light = Math.max(0, done - plan.edges);
    uniforms.edges.value = this.edges.texture;
    uniforms.light.value = this.light.texture;
    uniforms.nEdges.value = Math.min(done, plan.edges);
    uniforms.nLight.value = Math.max(1, light / (2 * this.pairs));
    // A few directions alone would be seen as such: they come in as they become many.
    uniforms.share.value = Math.min(1, light / Math.max(1, plan.light / 2));
    const { halo } = sceneLight();
    // A region knows nothing of what shines beside it: its picture has its halo as a whole.
    if (this.region || halo.amount === 0) return this.show.render(this.gl);
    const { gl } = this;
    const before = gl.getRenderTarget();
    this.mean ??= target(HalfFloatType, false);
    this.mean.setSize(this.edges.width, this.edges.height);
    gl.setRenderTarget(this.mean);
    this.show.render(gl);
    gl.setRenderTarget(before);
    this.halo ??= new Halo(gl);
    this.halo.show(this.mean, halo.amount, halo.reach);
  }

  /** The picture: linear red, green and blue with their alpha multiplied in, and alpha; the bottom row first. */
  async read(): Promise<Float32Array> {
    const { gl } = this;
    const { width, height } = this.edges;
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
    for (const t of [this.sharp, this.lit, this.nothing, this.edges, this.light, this.mean]) t?.dispose();
    this.halo?.dispose();
    this.seen.dispose();
    this.cast.dispose();
    this.lit.depthTexture?.dispose();
    for (const quad of [this.add, this.show]) {
      quad.material.dispose();
      quad.dispose();
    }
    this.frameLight.dispose();
    this.ownShadow?.dispose();
  }
}

/**
 * Nobody waits for a picture that is not shown: its parts are as large as others can bear, since each of them goes through
 * all corners of the scene again.
 */
const partsOf = ({ width, height }: Region) =>
  tilesOf(width, height, 2 ** Math.ceil(Math.log2(Math.max(1, (width * height) / UNSHOWN_PART))));

const EMPTY = new Scene();

const target = (type: typeof FloatType | typeof HalfFloatType, depthBuffer: boolean, samples = 0) =>
  new WebGLRenderTarget(1, 1, {
    type,
    depthBuffer,
    samples,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  });
