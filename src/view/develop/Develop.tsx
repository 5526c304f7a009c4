import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type {
  DirectionalLight,
  HemisphereLight,
  LightProbe,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  WebGLRenderer,
} from 'three';
import { useClock } from '@/store/clock';
import { engine } from '@/store/engine';
import { shadowsBegun } from '../coarse';
import { sceneLight } from '../light';
import { LampLights } from '../lamps/LampLights';
import { detail } from '../many/detail';
import { SOFTWARE } from '../software';
import { UNDRAWN } from '../undrawn';
import { useView } from '../viewState';
import { Developer, type Plan } from './developer';
import type { Lights } from './frameLight';
import { measure } from './meter';
import { Turns, type Work } from './turns';

/**
 * What develops while nothing moves: in software fewer frames do, since each takes half a second. One with four
 * places a pixel takes less than two with one.
 */
const PLAN: Plan = SOFTWARE
  ? { edges: 1, light: 32, samples: 4, pairs: 2, coarse: true }
  : { edges: 16, light: 64, pairs: 2 };
/** What a rough frame is finished by: a frame as the view draws them. */
const WHOLE: Plan = { edges: 1, light: 0 };
/** What of the measured brightness is not seen. */
const METER_OFF = 0.02;
/** Milliseconds without a frame before it begins. */
const AT_REST_MS = 120;

const isAtRest = (): boolean => {
  const { moving, coarse, loading, picture, makingStill } = useView.getState();
  const { busy } = engine().state;
  return (
    picture === 'drawn' &&
    !moving &&
    !coarse &&
    !makingStill &&
    loading === 0 &&
    !busy &&
    !useClock.getState().playing &&
    !document.hidden
  );
};

/** The work that goes on by itself; any frame of the view begins it anew, and nobody waits for it. */
class Developing {
  private developer: Developer | null = null;
  private finer: Developer | null = null;
  /** What the shadows of a finished frame were cast for. */
  private castFor = '';
  private waiting: ReturnType<typeof setTimeout> | undefined;
  private turns: Turns;

  constructor(
    private gl: WebGLRenderer,
    private scene: Scene,
    private camera: () => PerspectiveCamera | OrthographicCamera,
  ) {
    this.turns = new Turns(() => gl.getContext() as WebGL2RenderingContext);
  }

  /** The view has drawn a frame of its own. */
  touched(): void {
    this.stop();
    if (!useView.getState().develops && !detail.rough && !sceneLight().metered) return;
    this.waiting = setTimeout(() => this.begin(), AT_REST_MS);
  }

  private begin(): void {
    if (!isAtRest()) {
      this.waiting = setTimeout(() => this.begin(), AT_REST_MS);
      return;
    }
    if (sceneLight().metered && !UNDRAWN) this.meter();
    if (detail.rough) this.finish();
    else if (useView.getState().develops) this.develop();
  }

  /** Measures how bright the picture is to be; where that is another brightness than now, a frame is drawn anew. */
  private meter(): void {
    void measure(this.gl, this.scene, this.camera()).then((measured) => {
      const off = Math.abs(measured / useView.getState().measured - 1);
      if (isAtRest() && off > METER_OFF) useView.setState({ measured });
    });
  }

  /** Draws all that a rough frame has left out, and shows it in one go. */
  private finish(): void {
    const lights = lightsOf(this.scene);
    if (!lights) return;
    const say = detail.refine();
    this.finer ??= new Developer(this.gl, WHOLE);
    const { finer } = this;
    finer.restart();
    // What is drawn how near or far goes by where it is seen from, and so does what has a shadow.
    const { matrixWorld, projectionMatrix } = this.camera();
    // Taken hold of, it is the same but for its last digits.
    const about = [...matrixWorld.elements, ...projectionMatrix.elements].map((v) => Math.round(v * 1e6));
    const seen = `${about.join()} ${shadowsBegun()}`;
    finer.shadows = seen === this.castFor ? 'again' : 'anew';
    if (finer.shadows === 'anew') this.castFor = '';
    this.steps(finer, lights, {
      over: () => {
        detail.rough = false;
        this.castFor = seen;
        say();
        this.begin();
      },
    });
  }

  private develop(): void {
    const lights = lightsOf(this.scene);
    if (!lights) return;
    this.developer ??= new Developer(this.gl, PLAN);
    const { developer } = this;
    developer.restart();
    this.steps(developer, lights, {
      shown: () => useView.setState({ added: developer.added }),
      over: () => useView.setState({ developed: true }),
    });
  }

  private steps(developer: Developer, lights: Lights, done: Pick<Work, 'shown' | 'over'>): void {
    this.turns.begin({
      mayGoOn: () => {
        const may = isAtRest();
        if (!may) this.touched();
        return may;
      },
      isOver: () => developer.isDeveloped,
      isToShow: () => developer.isToShow,
      step: () => developer.step(this.scene, this.camera(), lights),
      ...done,
    });
  }

  stop(): void {
    clearTimeout(this.waiting);
    this.turns.stop();
    const { developed, added } = useView.getState();
    if (developed || added > 0) useView.setState({ developed: false, added: 0 });
  }

  dispose(): void {
    this.stop();
    this.developer?.dispose();
    this.finer?.dispose();
    this.developer = this.finer = null;
    this.castFor = '';
  }
}

/** The lights of what is drawn; null before they are there. */
export function lightsOf(scene: Scene): Lights | null {
  let [sun, sky, lamps, around]: [DirectionalLight?, HemisphereLight?, LampLights?, LightProbe?] = [];
  scene.traverse((o) => {
    if ('isDirectionalLight' in o) sun = o as DirectionalLight;
    else if ('isHemisphereLight' in o) sky = o as HemisphereLight;
    else if ('isLightProbe' in o) around = o as LightProbe;
    else if (o instanceof LampLights) lamps = o;
  });
  return sun && sky ? { sun, sky, lamps: lamps ?? null, around: around ?? null } : null;
}

/** Lets the picture develop after the last frame of the view. */
export function Develop() {
  const { gl, scene, get, invalidate } = useThree();
  const develops = useView((s) => s.develops);
  const work = useMemo(
    () => new Developing(gl, scene, () => get().camera as PerspectiveCamera | OrthographicCamera),
    [gl, scene, get],
  );
  useEffect(() => () => work.dispose(), [work]);
  // With its context all is lost that it had on the card, and what it had been allowed there.
  const lost = useView((s) => s.picture === 'lost');
  useEffect(() => {
    if (lost) work.dispose();
  }, [lost, work]);
  // After the frame itself.
  useFrame(() => work.touched(), 2);
  useEffect(() => invalidate(), [develops, invalidate]);
  return null;
}
